import { HEADER, type TextLine } from '../reading/pageReading';
import { similarity } from '../reading/similarity';
import type { PageClues } from './pageClues';

/** Further down, as fractions of the page, no header reaches. */
const MOST_HEADER = 0.2;
/** What stands at the top of several pages stands at the same height there, and as far in. */
const NEAR_Y = 0.03;
const NEAR_X = 0.08;
/** How alike two readings of one line are at least: hands are misread. */
const SAME = 0.6;
/** So many letters of a line tell. */
const BEGINNING = 24;
/** Shorter lines are alike by chance. */
const LEAST_LETTERS = 4;
/** From this share of lines on that say the same, and so many lines, it is one page twice. */
const ONE_PAGE = 0.5;
const FEW_LINES = 4;
/** With so many pages before and behind it a page is compared. */
const COMPARED = 12;
/** Writing does not begin so much further in than its lines do. */
const INDENTED = 0.12;

/**
 * How far down each page's header reaches, as fractions of the page: a course, a title or a date is not how the writing
 * begins. It stands at the top of other pages of the packet as well, or further in than lines begin.
 */
export function headerEnds(pages: readonly Pick<PageClues, 'reading'>[]): number[] {
	const all = pages.map(({ reading }) => reading?.lines ?? []);
	const tops = all.map((lines) => lines.filter((l) => l.box[3] < MOST_HEADER));
	const leftOfAll = usualLeft(all.flat()) ?? 1;
	return all.map((lines, i) => {
		const others = tops.flatMap((_, j) => (j === i || Math.abs(j - i) > COMPARED ? [] : [j]));
		const twice = new Map<number, boolean>();
		const isTwice = (j: number) => {
			const known = twice.get(j) ?? isOnePage(lines, all[j]!);
			twice.set(j, known);
			return known;
		};
		const isRepeated = (line: TextLine) =>
			others.some((j) => tops[j]!.some((o) => saysTheSame(line, o)) && !isTwice(j));
		const left = usualLeft(lines) ?? leftOfAll;
		let end = HEADER;
		for (const row of rowsOf(tops[i]!)) {
			const middle = (row[0]!.box[1] + row[0]!.box[3]) / 2;
			if (middle > HEADER && row[0]!.box[0] < left + INDENTED && !row.some(isRepeated)) break;
			end = Math.max(end, middle);
		}
		return end;
	});
}

/** Lines side by side, from left to right; rows from the top down. */
function rowsOf(lines: readonly TextLine[]): TextLine[][] {
	const rows: TextLine[][] = [];
	for (const line of lines) {
		const row = rows.at(-1);
		if (row && (line.box[1] + line.box[3]) / 2 < row[0]!.box[3]) row.push(line);
		else rows.push([line]);
	}
	return rows.map((row) => row.sort((a, b) => a.box[0] - b.box[0]));
}

/** Where lines begin below the header, as a fraction of the page; undefined where none do. */
function usualLeft(lines: readonly TextLine[]): number | undefined {
	const lefts = lines.filter((l) => l.box[3] >= MOST_HEADER).map((l) => l.box[0]);
	return lefts.sort((a, b) => a - b)[lefts.length >> 1];
}

function isOnePage(a: readonly TextLine[], b: readonly TextLine[]): boolean {
	const fewer = Math.min(a.length, b.length);
	if (fewer <= FEW_LINES) return false;
	let [same, left] = [0, a.length];
	for (const line of a) {
		if (same + left <= ONE_PAGE * fewer) return false;
		left--;
		if (b.some((o) => saysTheSame(line, o)) && ++same > ONE_PAGE * fewer) return true;
	}
	return false;
}

function saysTheSame(a: TextLine, b: TextLine): boolean {
	if (Math.abs(a.box[1] - b.box[1]) >= NEAR_Y || Math.abs(a.box[0] - b.box[0]) >= NEAR_X) return false;
	const [one, other] = [beginningOf(a), beginningOf(b)];
	const [shorter, longer] = [one.length, other.length].sort((x, y) => x - y) as [number, number];
	if (shorter < LEAST_LETTERS || shorter < SAME * longer) return false;
	return similarity(one, other) >= SAME;
}

const beginningOf = ({ text }: TextLine) => text.slice(0, BEGINNING).toLowerCase();
