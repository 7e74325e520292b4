import { PDFHexString, PDFName, type PDFDocument, type PDFRef } from '@cantoo/pdf-lib';
import type { TextLine } from '../../core/reading/pageReading';

/** Codes of one simple font: 0 is left out, since some readers take it for the end. */
const CODES = 255;
/** Width of every character in thousandths of the font size; each line is then stretched to its box. */
const WIDTH = 500;
/** Part of a line's box that is above the baseline, and the size of the writing in it. */
export const BASELINE = 0.78;
export const SIZE = 0.75;

/**
 * Invisible text over the pages of one document, so that they can be searched, copied and read aloud. The fonts have
 * empty glyphs and a table from codes to Unicode (ISO 32000-1, 9.6.5 and 9.10.3), so that any script works and nothing
 * has to be embedded.
 */
export class PdfText {
	readonly #pdf: PDFDocument;
	readonly #codes = new Map<string, number>();
	readonly #fonts: PDFRef[];

	constructor(pdf: PDFDocument, pages: readonly (readonly TextLine[])[]) {
		this.#pdf = pdf;
		for (const { text } of pages.flat()) {
			for (const character of text) {
				if (!this.#codes.has(character)) this.#codes.set(character, this.#codes.size);
			}
		}
		const characters = [...this.#codes.keys()];
		this.#fonts = [];
		for (let i = 0; i < characters.length; i += CODES) {
			this.#fonts.push(this.#font(characters.slice(i, i + CODES)));
		}
	}

	/** The fonts that a page's text needs, by the names its text calls them. */
	get resources(): ReadonlyMap<string, PDFRef> {
		return new Map(this.#fonts.map((font, i) => [fontName(i), font]));
	}

	/**
	 * Operators that write a page's lines, each in its box.
	 * @param width and height of the page in points
	 */
	operators(lines: readonly TextLine[], width: number, height: number): string {
		if (lines.length === 0) return '';
		const out = ['BT', '3 Tr'];
		for (const { box, text } of lines) {
			const [x0, y0, x1, y1] = box;
			const high = (y1 - y0) * height;
			const size = SIZE * high;
			const natural = ([...text].length * size * WIDTH) / 1000;
			if (natural <= 0 || high <= 0) continue;
			const stretch = (100 * (x1 - x0) * width) / natural;
			out.push(`${number(stretch)} Tz`);
			out.push(`1 0 0 1 ${number(x0 * width)} ${number(height * (1 - y0) - BASELINE * high)} Tm`);
			for (const { font, hex } of this.#runs(text))
				out.push(`/${fontName(font)} ${number(size)} Tf <${hex}> Tj`);
		}
		out.push('ET');
		return out.join('\n');
	}

	/** A text as pieces of one font each. */
	#runs(text: string): { font: number; hex: string }[] {
		const runs: { font: number; hex: string }[] = [];
		for (const character of text) {
			const code = this.#codes.get(character)!;
			const font = Math.floor(code / CODES);
			const hex = ((code % CODES) + 1).toString(16).padStart(2, '0');
			const last = runs.at(-1);
			if (last?.font === font) last.hex += hex;
			else runs.push({ font, hex });
		}
		return runs;
	}

	#font(characters: readonly string[]): PDFRef {
		const { context } = this.#pdf;
		const glyph = context.register(context.stream(`${WIDTH} 0 0 0 ${WIDTH} 1000 d1`));
		const toUnicode = context.register(context.flateStream(unicodeMap(characters)));
		return context.register(
			context.obj({
				Type: 'Font',
				Subtype: 'Type3',
				FontBBox: [0, 0, WIDTH, 1000],
				FontMatrix: [0.001, 0, 0, 0.001, 0, 0],
				CharProcs: { g: glyph },
				Encoding: { Type: 'Encoding', Differences: [1, ...characters.map(() => PDFName.of('g'))] },
				FirstChar: 1,
				LastChar: characters.length,
				Widths: characters.map(() => WIDTH),
				Resources: {},
				ToUnicode: toUnicode
			})
		);
	}
}

function fontName(index: number): string {
	return `Text${index}`;
}

/** A CMap from codes to UTF-16 (Adobe Technical Note 5014), at most 100 a block. */
function unicodeMap(characters: readonly string[]): string {
	const lines = characters.map((character, i) => {
		const code = (i + 1).toString(16).padStart(2, '0');
		const utf16 = PDFHexString.fromText(character).asString().slice(4);
		return `<${code}> <${utf16}>`;
	});
	const blocks: string[] = [];
	for (let i = 0; i < lines.length; i += 100) {
		const block = lines.slice(i, i + 100);
		blocks.push(`${block.length} beginbfchar`, ...block, 'endbfchar');
	}
	return [
		'/CIDInit /ProcSet findresource begin',
		'12 dict begin begincmap',
		'/CIDSystemInfo << /Registry (Adobe) /Ordering (UCS) /Supplement 0 >> def',
		'/CMapName /Membrana def /CMapType 2 def',
		'1 begincodespacerange <00> <FF> endcodespacerange',
		...blocks,
		'endcmap CMapName currentdict /CMap defineresource pop end end'
	].join('\n');
}

function number(value: number): string {
	return Number(value.toFixed(3)).toString();
}
