import type { TextLine } from '../reading/pageReading';

/** Lines whose tops differ by less than this, as a fraction of the page's height, begin in one row. */
const SAME_ROW = 0.02;
/** Room above a row that belongs to it. */
const ROOM = 0.006;

/**
 * Where a seam goes above a row of writing: between it and the line before, so that it cuts through neither.
 *
 * @param y top of the label, as a fraction of the page's height
 */
export function aboveRow(y: number, lines: readonly TextLine[]): number {
	const middle = (l: TextLine) => (l.box[1] + l.box[3]) / 2;
	const row = lines.filter((l) => Math.abs(l.box[1] - y) < SAME_ROW && middle(l) > y);
	const top = row.reduce((least, l) => Math.min(least, l.box[1]), y);
	const before = lines.filter((l) => !row.includes(l) && middle(l) < top && l.box[3] < top + SAME_ROW);
	const bottom = before.reduce((most, l) => Math.max(most, l.box[3]), 0);
	return Math.max(0, bottom > top - 2 * ROOM ? (bottom + top) / 2 : top - ROOM);
}
