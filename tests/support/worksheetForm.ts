import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib';

/** A worksheet with fields to fill in on its first page, A4, and none on its second. */
export async function worksheetForm(): Promise<Uint8Array> {
	const pdf = await PDFDocument.create();
	const page = pdf.addPage([595, 842]);
	const font = await pdf.embedFont(StandardFonts.Helvetica);
	page.drawText('Gauging the Lode: worksheet', { x: 72, y: 770, size: 18, font });
	page.drawText('Group', { x: 72, y: 725, size: 10, font });
	page.drawText('What do you see on the way?', { x: 72, y: 525, size: 10, font });
	const form = pdf.getForm();
	form.createTextField('sheet.group').addToPage(page, { x: 72, y: 700, width: 200, height: 20 });
	const meter = form.createDropdown('meter');
	meter.addOptions(['rod', 'float']);
	meter.addToPage(page, { x: 72, y: 660, width: 120, height: 20 });
	form.createCheckBox('calm_water').addToPage(page, { x: 72, y: 620, width: 14, height: 14 });
	const bank = form.createRadioGroup('bank');
	bank.addOptionToPage('left', page, { x: 72, y: 590, width: 14, height: 14 });
	bank.addOptionToPage('right', page, { x: 72, y: 560, width: 14, height: 14 });
	const remarks = form.createTextField('remarks');
	remarks.enableMultiline();
	remarks.addToPage(page, { x: 72, y: 400, width: 400, height: 110 });
	const fixed = form.createTextField('course');
	fixed.setText('HY-2');
	fixed.enableReadOnly();
	fixed.addToPage(page, { x: 400, y: 780, width: 80, height: 20 });
	pdf.addPage([595, 842]).drawText('Nothing to fill in here.', { x: 72, y: 770, size: 12, font });
	return pdf.save();
}
