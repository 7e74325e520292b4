import { similarity } from '../reading/similarity';
import { HEADER, type TextLine } from '../reading/pageReading';
import { likeness, SAME_PAGE } from '../page/fingerprint';
import type { PageClues } from './pageClues';
import type { SettledNumber } from './pageNumbers';

/** Likeness of the fingerprints and of the lines together; 0.87 at most was measured on pages of different writing, 1.14 at least on pictures of one page, one of them blurred until it was hard to read. */
const SAME_TOGETHER = 1;
/** Where there is too little writing to compare, the fingerprint alone has to say it. */
const SAME_BY_PRINT = 0.7;
/** Letters that are too little. */
const LEAST_LETTERS = 30;
/** Lines at the same height lie within this, as a fraction of the page's height. */
const SAME_HEIGHT = 0.035;
/** Shorter lines may be alike by chance. */
const SHORTEST_LINE = 4;
/** Two numbers surer than this that differ are two pages. */
const SURE_NUMBER = 0.8;

/**
 * For each page, the page of the same writing that is kept in its place, or null: of several pictures of one page the
 * most readable stays.
 */
export function repeatedPages(
	pages: readonly PageClues[],
	numbers: readonly (SettledNumber | null)[]
): (number | null)[] {
	const kept: number[] = [];
	const of: (number | null)[] = pages.map(() => null);
	const byQuality = pages
		.map((_, i) => i)
		.sort((a, b) => pages[b]!.legibility - pages[a]!.legibility || a - b);
	for (const i of byQuality) {
		if (pages[i]!.blank) continue;
		const twin = kept.find((k) => isSame(i, k));
		if (twin === undefined) kept.push(i);
		else of[i] = twin;
	}
	return of;

	function isSame(a: number, b: number): boolean {
		const [x, y] = [numbers[a], numbers[b]];
		if (x && y && x.number !== y.number && Math.min(x.confidence, y.confidence) > SURE_NUMBER) return false;
		return isSamePage(pages[a]!, pages[b]!);
	}
}

/** Whether two pictures are of one page, by where its writing is and what it says. */
export function isSamePage(a: PageClues, b: PageClues): boolean {
	const alike = likeness(a.fingerprint, b.fingerprint);
	if (alike < SAME_PAGE) return false;
	const lines = linesAlike(a, b);
	return lines === null ? alike >= SAME_BY_PRINT : alike + lines >= SAME_TOGETHER;
}

/** How alike the lines of two pages are at the same heights, 0 to 1; null where there is too little to compare. */
function linesAlike(a: PageClues, b: PageClues): number | null {
	// Whole lines are not like the beginnings of lines.
	if (a.reading?.startsOnly !== b.reading?.startsOnly) return null;
	const [one, two] = [bodyOf(a), bodyOf(b)];
	const [fewer, more] = one.length < two.length ? [one, two] : [two, one];
	let sum = 0;
	let letters = 0;
	for (const line of fewer) {
		let best = 0;
		for (const other of more) {
			if (Math.abs(other.box[1] - line.box[1]) > SAME_HEIGHT) continue;
			best = Math.max(best, similarity(line.text.toLowerCase(), other.text.toLowerCase()));
		}
		sum += best * line.text.length;
		letters += line.text.length;
	}
	return letters < LEAST_LETTERS ? null : sum / letters;
}

function bodyOf({ reading }: PageClues): TextLine[] {
	return (reading?.lines ?? []).filter((l) => l.box[1] > HEADER && l.text.length >= SHORTEST_LINE);
}
