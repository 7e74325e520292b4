import { SURE_NUMBER } from '../reading/pageNumber';
import type { PageClues } from './pageClues';

/** A page's number as the whole packet makes it likely. */
export interface SettledNumber {
	readonly number: number;
	readonly of: number | null;
	/** 0 to 1. */
	readonly confidence: number;
	/** Whether a person said so. */
	readonly said: boolean;
	/** How likely it is each number, adding up to at most 1. */
	readonly shares: ReadonlyMap<number, number>;
}

/** How much likelier a reading becomes when its count of pages is the one most pages name. */
const SAME_TOTAL = 12;
/** By how much each further number beyond the pages there are is less likely. */
const BEYOND = 0.25;
/** Rounds in which pages give way to each other over one number. */
const ROUNDS = 4;
/** Pages on which a number was read with less than this carry none. */
const LEAST_READ = SURE_NUMBER;

/**
 * Settles the number of each page. A count of pages that most pages name ("of 4") settles misread ones, and two pages
 * that may carry one number give way to each other (mean field).
 *
 * @returns null for a page without a number
 */
export function settleNumbers(pages: readonly PageClues[]): (SettledNumber | null)[] {
	const total = commonTotal(pages);
	const prior = pages.map((page): Map<number, number> => {
		if (page.numberSaid !== undefined) return new Map(page.numberSaid === null ? [] : [[page.numberSaid, 1]]);
		const weights = new Map<number, number>();
		for (const { number, of, probability } of page.reading?.numbers ?? []) {
			const fits = total !== null && of === total ? SAME_TOTAL : 1;
			const beyond = BEYOND ** Math.max(0, number - (total ?? pages.length));
			weights.set(number, (weights.get(number) ?? 0) + probability * fits * beyond);
		}
		return weights;
	});
	let settled = prior.map(normalised);
	for (let round = 0; round < ROUNDS; round++) {
		settled = prior.map((weights, i) =>
			normalised(
				new Map(
					[...weights].map(([number, weight]) => {
						const free = settled.reduce(
							(p, other, j) => (j === i ? p : p * (1 - 0.95 * (other.get(number) ?? 0))),
							1
						);
						return [number, weight * free];
					})
				)
			)
		);
	}
	return pages.map((page, i) => {
		const said = page.numberSaid !== undefined;
		const options = page.reading?.numbers ?? [];
		const read = said ? 1 : options.reduce((sum, o) => sum + o.probability, 0);
		const [best] = [...settled[i]!].sort((a, b) => b[1] - a[1]);
		if (!best || read < LEAST_READ) return null;
		const [number, share] = best;
		const of = total ?? options.find((o) => o.number === number)?.of ?? null;
		const shares = new Map([...settled[i]!].map(([n, s]) => [n, read * s]));
		return { number, of, confidence: Math.round(100 * read * share) / 100, said, shares };
	});
}

function normalised(weights: ReadonlyMap<number, number>): Map<number, number> {
	const all = [...weights.values()].reduce((sum, w) => sum + w, 0);
	return new Map([...weights].map(([number, weight]) => [number, all > 0 ? weight / all : 0]));
}

/** What it costs, in natural logarithms, to take a page's number for misread. */
const MISREAD = Math.log(0.03);

/**
 * Settles the numbers of pages that stand in order: the likeliest ones that rise from page to page (dynamic
 * programming); a number that cannot rise was misread.
 */
export function risingNumbers(pages: readonly PageClues[]): (SettledNumber | null)[] {
	const total = commonTotal(pages);
	const choices = pages.map((page): { number: number; log: number; said: boolean }[] => {
		if (page.numberSaid !== undefined) {
			return page.numberSaid === null ? [] : [{ number: page.numberSaid, log: 0, said: true }];
		}
		return (page.reading?.numbers ?? [])
			.filter((o) => total === null || o.number <= total)
			.map((o) => ({ number: o.number, log: Math.log(o.probability), said: false }));
	});
	interface Way {
		readonly last: number;
		readonly score: number;
		readonly picked: readonly (number | null)[];
	}
	let ways: Way[] = [{ last: 0, score: 0, picked: [] }];
	for (const options of choices) {
		const next = new Map<number, Way>();
		const offer = (way: Way) => {
			const known = next.get(way.last);
			if (!known || known.score < way.score) next.set(way.last, way);
		};
		for (const { last, score, picked } of ways) {
			offer({ last, score: score + (options.length > 0 ? MISREAD : 0), picked: [...picked, null] });
			for (const { number, log, said } of options) {
				if (number <= last && !said) continue;
				// A gap is a missing page, which is rarer than none.
				const gap = Math.min(3, Math.max(0, number - last - 1));
				offer({ last: number, score: score + log - 0.7 * gap, picked: [...picked, number] });
			}
		}
		ways = [...next.values()];
	}
	const best = ways.reduce((a, b) => (b.score > a.score ? b : a));
	return pages.map((page, i) => {
		const number = best.picked[i] ?? null;
		if (number === null) return null;
		const said = page.numberSaid !== undefined;
		const options = page.reading?.numbers.filter((o) => o.number === number) ?? [];
		const read = options.reduce((sum, o) => sum + o.probability, 0);
		return {
			number,
			of: total ?? options[0]?.of ?? null,
			confidence: said ? 1 : Math.round(100 * read) / 100,
			said,
			shares: new Map([[number, 1]])
		};
	});
}

/** The count of pages that the pages agree on; null where fewer than two name one. */
function commonTotal(pages: readonly PageClues[]): number | null {
	const votes = new Map<number, number>();
	for (const { reading } of pages) {
		for (const { of, probability } of reading?.numbers ?? []) {
			if (of !== null) votes.set(of, (votes.get(of) ?? 0) + probability);
		}
	}
	const [best] = [...votes].sort((a, b) => b[1] - a[1]);
	return best && best[1] >= Math.min(1.2, 0.6 * pages.length) ? best[0] : null;
}
