import type { TextLine } from '../reading/pageReading';

/** A PDF's own structure: what comes on top of the pages' images. */
const OVERHEAD = 2200;
const OVERHEAD_A_PAGE = 450;
/** Of the invisible text: its font, each character in it, and what a letter and a line cost once deflated (measured). */
const FONT = 900;
const OF_A_CHARACTER = 14;
const OF_A_LETTER = 0.79;
const LETTERS_OF_A_LINE = 20;

/** Bytes of the file that pages will make, before it is made. */
export function predictedBytes(
	pages: readonly { readonly bytes: number; readonly lines: readonly TextLine[] }[]
): number {
	const images = pages.reduce((sum, p) => sum + p.bytes + OVERHEAD_A_PAGE, OVERHEAD);
	const lines = pages.flatMap((p) => p.lines);
	if (lines.length === 0) return images;
	const characters = new Set(lines.flatMap((l) => [...l.text])).size;
	const letters = lines.reduce((sum, l) => sum + l.text.length + LETTERS_OF_A_LINE, 0);
	return Math.round(images + FONT + OF_A_CHARACTER * characters + OF_A_LETTER * letters);
}
