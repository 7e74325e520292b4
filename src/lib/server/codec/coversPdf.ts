import { PDFDocument, rgb, type PDFPage } from '@cantoo/pdf-lib';
import { coverText } from '../../core/reading/coverSheet';
import { Fonts, SOFT } from './pdfFonts';
import { drawQr, qrCells } from './pdfQr';

export interface CoverSheets {
	readonly title: string;
	readonly course: string;
	/** Which assignment the sheets are good for; empty: any. */
	readonly assignment: string;
	/** In the order in which the sheets lie. */
	readonly people: readonly {
		readonly sourcedId: string;
		readonly given: string;
		readonly family: string;
	}[];
}

const BLACK = rgb(0, 0, 0);
const [WIDTH, HEIGHT] = [595.28, 841.89];
const MARGIN = 64;
/** A cell of the code, in points: a millimetre, which a coarse scan still shows. */
const CELL = 2.835;
const CODE = { color: BLACK, errorCorrectionLevel: 'Q' } as const;

/** A cover sheet for each person, to be laid before their pages: A4, one on a page. */
export async function makeCoversPdf(sheets: CoverSheets): Promise<Uint8Array> {
	const pdf = await PDFDocument.create({ updateMetadata: false });
	pdf.setTitle(`${sheets.title}: cover sheets`, { showInWindowTitleBar: true });
	pdf.setProducer('Membrana');
	pdf.setLanguage('en');
	const fonts = new Fonts(pdf);
	for (const { sourcedId, given, family } of sheets.people) {
		const page = pdf.addPage([WIDTH, HEIGHT]);
		let y = HEIGHT - MARGIN - 40;
		const say = async (text: string, size: number, color = BLACK) => {
			for (const row of await fonts.wrap(text, WIDTH - 2 * MARGIN, size)) {
				await fonts.draw(page, row, MARGIN, y, size, color);
				y -= 1.25 * size;
			}
		};
		await say(family || given, 40);
		if (family && given) await say(given, 28);
		y -= 14;
		await say([sheets.course, sheets.title].filter(Boolean).join(' · '), 14, SOFT);
		const code = coverText({ assignment: sheets.assignment, person: sourcedId });
		const side = CELL * qrCells(code, CODE);
		drawQr(page, code, [(WIDTH - side) / 2, (HEIGHT - side) / 2 - 20], side, CODE);
		rule(page, MARGIN + 62);
		y = MARGIN + 36;
		await say(
			'This sheet lies on top of the pages of the person named here, and is scanned with them.',
			10.5
		);
		await say(
			'Membrana reads the square, begins their packet behind it and leaves this sheet out.',
			10.5,
			SOFT
		);
	}
	return pdf.save({ useObjectStreams: false });
}

function rule(page: PDFPage, y: number): void {
	page.drawLine({
		start: { x: MARGIN, y },
		end: { x: WIDTH - MARGIN, y },
		thickness: 0.75,
		color: SOFT
	});
}
