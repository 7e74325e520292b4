import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { rgb, type PDFDocument, type PDFFont, type PDFPage, type PDFRef } from '@cantoo/pdf-lib';
import fontkit from '@pdf-lib/fontkit';
import { unpackWoff } from './woff';

export const INK = rgb(0.165, 0.122, 0.239);
export const SOFT = rgb(0.36, 0.33, 0.43);

/** Where the fonts lie that ship with the application. */
export const FONT_FILES = join(
	dirname(createRequire(import.meta.url).resolve('@fontsource/ibm-plex-sans/package.json')),
	'files'
);
/** Subsets of the font, in the order in which a letter is looked for; each holds some alphabets. */
export const SUBSETS = ['latin', 'latin-ext', 'cyrillic', 'greek', 'vietnamese'];

/** The fonts of a document, each taken in when a letter needs it. */
export class Fonts {
	readonly #loaded = new Map<string, { font: PDFFont; letters: Set<number> }>();

	constructor(readonly pdf: PDFDocument) {
		pdf.registerFontkit(fontkit);
	}

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

	/** A text as strings that a content stream shows one after the other, each in a font of the document. */
	async strings(text: string): Promise<{ ref: PDFRef; name: string; hex: string }[]> {
		return (await this.#runs(text)).map(({ font, text: part }) => ({
			ref: font.ref,
			name: font.name.replace(/[^A-Za-z0-9]/g, ''),
			hex: font.encodeText(part).toString()
		}));
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
		const bytes = await readFile(join(FONT_FILES, `ibm-plex-sans-${subset}-400-normal.woff`));
		// Two letters in one glyph would be lost to whoever searches or copies the text.
		const font = await this.pdf.embedFont(unpackWoff(bytes), { features: { liga: false } });
		const loaded = { font, letters: new Set(font.getCharacterSet()) };
		this.#loaded.set(subset, loaded);
		return loaded;
	}
}
