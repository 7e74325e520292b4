import type { TextLine } from './pageReading';

/** Words found on a page. */
export interface Found {
	readonly page: string;
	readonly line: TextLine;
	/** What was found is `line.text.slice(from, to)`. */
	readonly from: number;
	readonly to: number;
	/** Letters that differ from what was looked for. */
	readonly errors: number;
}

/** One letter in so many may be misread. */
const LETTERS_AN_ERROR = 5;

/**
 * Looks for words in what was read off pages. Case and accents do not matter, and since hands are misread, one letter in
 * five may differ (Sellers 1980).
 *
 * @returns in the sequence of the pages, at most one place a line
 */
export function findText(
	pages: readonly { readonly page: string; readonly lines: readonly TextLine[] }[],
	query: string
): Found[] {
	const wanted = [...fold(query.trim().replace(/\s+/g, ' '))];
	if (wanted.length < 2) return [];
	const most = Math.floor(wanted.length / LETTERS_AN_ERROR);
	return pages.flatMap(({ page, lines }) =>
		lines.flatMap((line) => {
			const place = bestPlace(wanted, [...fold(line.text)]);
			return place && place.errors <= most ? [{ page, line, ...place }] : [];
		})
	);
}

/** One letter for one letter, so that places are those of the text itself. */
function fold(text: string): string {
	return Array.from(text, (c) => c.normalize('NFD')[0]!.toLowerCase()[0]!).join('');
}

/** Where a text is most like what is wanted: the fewest letters changed, left out or put in. */
function bestPlace(wanted: readonly string[], text: readonly string[]) {
	let cost = wanted.map((_, i) => i + 1);
	let start = wanted.map(() => 0);
	let best: { from: number; to: number; errors: number } | null = null;
	for (let j = 0; j < text.length; j++) {
		const nextCost: number[] = [];
		const nextStart: number[] = [];
		for (let i = 0; i < wanted.length; i++) {
			const above = i === 0 ? 0 : cost[i - 1]!;
			const aboveStart = i === 0 ? j : start[i - 1]!;
			const change = above + (wanted[i] === text[j] ? 0 : 1);
			const extra = cost[i]! + 1;
			const left = (i === 0 ? 0 : nextCost[i - 1]!) + 1;
			const least = Math.min(change, extra, left);
			nextCost.push(least);
			nextStart.push(
				least === change ? aboveStart : least === extra ? start[i]! : i === 0 ? j + 1 : nextStart[i - 1]!
			);
		}
		cost = nextCost;
		start = nextStart;
		const errors = cost.at(-1)!;
		if (!best || errors < best.errors) best = { from: start.at(-1)!, to: j + 1, errors };
	}
	return best;
}
