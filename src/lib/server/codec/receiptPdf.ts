import { PDFDocument } from '@cantoo/pdf-lib';
import { Fonts, INK, SOFT } from './pdfFonts';

/** What a receipt says, line by line. */
export interface ReceiptText {
	readonly title: string;
	readonly lines: readonly (readonly [label: string, text: string])[];
	readonly footer: string;
	readonly created: Date;
}

const [WIDTH, HEIGHT] = [595.28, 841.89];
const MARGIN = 60;
const LABEL = 110;

/** A receipt on one page of A4 (more when it is long), with text that can be searched and copied. */
export async function makeReceiptPdf(receipt: ReceiptText): Promise<Uint8Array> {
	const pdf = await PDFDocument.create({ updateMetadata: false });
	pdf.setTitle(receipt.title, { showInWindowTitleBar: true });
	pdf.setProducer('Membrana');
	pdf.setCreator('Membrana');
	pdf.setLanguage('en');
	pdf.setCreationDate(receipt.created);
	const fonts = new Fonts(pdf);
	let page = pdf.addPage([WIDTH, HEIGHT]);
	let y = HEIGHT - MARGIN - 26;
	const need = (height: number) => {
		if (y - height > MARGIN) return;
		page = pdf.addPage([WIDTH, HEIGHT]);
		y = HEIGHT - MARGIN;
	};
	await fonts.draw(page, receipt.title, MARGIN, y, 24, INK);
	y -= 44;
	for (const [label, text] of receipt.lines) {
		const rows = await fonts.wrap(text, WIDTH - 2 * MARGIN - LABEL, 11);
		need(16);
		await fonts.draw(page, label, MARGIN, y, 10, SOFT);
		for (const row of rows) {
			need(16);
			await fonts.draw(page, row, MARGIN + LABEL, y, 11, INK);
			y -= 16;
		}
		y -= 8;
	}
	for (const row of await fonts.wrap(receipt.footer, WIDTH - 2 * MARGIN, 9)) {
		need(14);
		await fonts.draw(page, row, MARGIN, y - 12, 9, SOFT);
		y -= 14;
	}
	return pdf.save({ useObjectStreams: false });
}
