import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { PDFDocument, rgb, type PDFFont, type PDFPage } from '@cantoo/pdf-lib';
import fontkit from '@pdf-lib/fontkit';
import { unpackWoff } from './woff';

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
const INK = rgb(0.165, 0.122, 0.239);
const SOFT = rgb(0.36, 0.33, 0.43);

/** Subsets of the font, in the order in which a letter is looked for; each holds some alphabets. */
const SUBSETS = ['latin', 'latin-ext', 'cyrillic', 'greek', 'vietnamese'];
const home = dirname(createRequire(import.meta.url).resolve('@fontsource/ibm-plex-sans/package.json'));

/** A receipt on one page of A4 (more when it is long), with text that can be searched and copied. */
export async function makeReceiptPdf(receipt: ReceiptText): Promise<Uint8Array> {
	const pdf = await PDFDocument.create({ updateMetadata: false });
	pdf.setTitle(receipt.title, { showInWindowTitleBar: true });
	pdf.setProducer('Membrana');
	pdf.setCreator('Membrana');
	pdf.setLanguage('en');
	pdf.setCreationDate(receipt.created);
	pdf.registerFontkit(fontkit);
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

/** The fonts of a document, each taken in when a letter needs it. */
class Fonts {
	readonly #loaded = new Map<string, { font: PDFFont; letters: Set<number> }>();

	constructor(readonly pdf: PDFDocument) {}

	async draw(
		page: PDFPage,
		text: string,
		x: number,
		y: number,
		size: number,
		color: typeof INK
	): Promise<void> {
		for (const { font, text: part } of await this.#runs(text)) {
			page.drawText(part, { x, y, size, font, color });
			x += font.widthOfTextAtSize(part, size);
		}
	}

	/** Breaks a text into rows; words too long for one, such as a hash, are cut. */
	async wrap(text: string, width: number, size: number): Promise<string[]> {
		const rows: string[] = [];
		for (const paragraph of text.split('\n')) {
			let row = '';
			for (const word of paragraph.split(' ').flatMap((w) => w.match(/.{1,48}/gu) ?? [''])) {
				const longer = row === '' ? word : `${row} ${word}`;
				if (row !== '' && (await this.#width(longer, size)) > width) {
					rows.push(row);
					row = word;
				} else row = longer;
			}
			rows.push(row);
		}
		return rows;
	}

	async #width(text: string, size: number): Promise<number> {
		let sum = 0;
		for (const { font, text: part } of await this.#runs(text)) sum += font.widthOfTextAtSize(part, size);
		return sum;
	}

	/** A text in parts, each in the first font that has its letters; letters that none has become "?". */
	async #runs(text: string): Promise<{ font: PDFFont; text: string }[]> {
		const runs: { font: PDFFont; text: string }[] = [];
		for (const letter of text.replace(/\s/g, ' ')) {
			const found = (await this.#fontFor(letter)) ?? { font: (await this.#load('latin')).font, letter: '?' };
			const last = runs.at(-1);
			if (last?.font === found.font) last.text += found.letter;
			else runs.push({ font: found.font, text: found.letter });
		}
		return runs;
	}

	async #fontFor(letter: string): Promise<{ font: PDFFont; letter: string } | null> {
		for (const subset of SUBSETS) {
			const { font, letters } = await this.#load(subset);
			if (letters.has(letter.codePointAt(0)!)) return { font, letter };
		}
		return null;
	}

	async #load(subset: string): Promise<{ font: PDFFont; letters: Set<number> }> {
		const known = this.#loaded.get(subset);
		if (known) return known;
		const bytes = await readFile(join(home, 'files', `ibm-plex-sans-${subset}-400-normal.woff`));
		const font = await this.pdf.embedFont(unpackWoff(bytes));
		const loaded = { font, letters: new Set(font.getCharacterSet()) };
		this.#loaded.set(subset, loaded);
		return loaded;
	}
}
