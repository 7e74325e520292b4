import { PDFDocument } from '@cantoo/pdf-lib';
import { Fonts, INK, SOFT } from './pdfFonts';
import { drawQr } from './pdfQr';

/** What one person's slip says. */
export interface Slip {
	readonly name: string;
	readonly login: string;
	/** In groups, as it is typed. */
	readonly code: string;
	/** What the QR code leads to. */
	readonly link: string;
}

export interface SlipSheet {
	readonly school: string;
	readonly course: string;
	/** Where a code is typed in: "school.example/come-in". */
	readonly address: string;
	/** Last day on which the codes work, in words. */
	readonly until: string;
	readonly slips: readonly Slip[];
}

const [WIDTH, HEIGHT] = [595.28, 841.89];
const MARGIN = 36;
const COLUMNS = 2;
const ROWS = 5;
const QR = 96;

/** Slips to cut out and hand to people, ten on a page of A4. */
export async function makeSlipsPdf(sheet: SlipSheet): Promise<Uint8Array> {
	const pdf = await PDFDocument.create({ updateMetadata: false });
	pdf.setTitle(`${sheet.course}: slips to come in with`, { showInWindowTitleBar: true });
	pdf.setProducer('Membrana');
	pdf.setLanguage('en');
	const fonts = new Fonts(pdf);
	const [width, height] = [(WIDTH - 2 * MARGIN) / COLUMNS, (HEIGHT - 2 * MARGIN) / ROWS];
	let page = pdf.addPage([WIDTH, HEIGHT]);
	for (const [i, slip] of sheet.slips.entries()) {
		const place = i % (COLUMNS * ROWS);
		if (i > 0 && place === 0) page = pdf.addPage([WIDTH, HEIGHT]);
		const x = MARGIN + (place % COLUMNS) * width;
		const top = HEIGHT - MARGIN - Math.floor(place / COLUMNS) * height;
		page.drawRectangle({
			x,
			y: top - height,
			width,
			height,
			borderColor: SOFT,
			borderWidth: 0.5,
			borderDashArray: [3, 3]
		});
		const [qr, ...texts] = [x + width - QR - 12, slip.name, slip.login] as const;
		drawQr(page, slip.link, [qr, top - 16 - QR], QR);
		const room = width - QR - 36;
		let y = top - 26;
		const say = async (text: string, size: number, color = INK) => {
			for (const row of await fonts.wrap(text, room, size)) {
				await fonts.draw(page, row, x + 12, y, size, color);
				y -= size * 1.25;
			}
			y -= 3;
		};
		await say(`${sheet.school}, ${sheet.course}`, 7.5, SOFT);
		await say(texts[0], 12);
		await say('Open this address, and type the code:', 7.5, SOFT);
		await say(sheet.address, 9);
		await say(slip.code, 12);
		await fonts.draw(page, `Sign-in name: ${texts[1]}`, x + 12, top - height + 22, 7.5, INK);
		await fonts.draw(
			page,
			`Works once, until ${sheet.until}. Keep it to yourself.`,
			x + 12,
			top - height + 11,
			7,
			SOFT
		);
	}
	return pdf.save({ useObjectStreams: false });
}
