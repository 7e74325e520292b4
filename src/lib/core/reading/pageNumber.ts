import { CLASSES, part, SPACE, type LinePosterior } from './linePosterior';
import { pageLayout } from './pageLayout';
import type { ReadLine } from './readLine';
import { scoreStrings } from './scoreStrings';
import { addTo, emptyTrie, type Trie } from './trie';

/** What the number on a page may be. */
export interface NumberOption {
	readonly number: number;
	/** The count of pages written beside it: "2 of 4". */
	readonly of: number | null;
	/** 0 to 1. */
	readonly probability: number;
}

type PageNumber = Pick<NumberOption, 'number' | 'of'>;

const HIGHEST = 40;
/** Page numbers stand within these parts of the page's height. */
const HEADER = 0.085;
const FOOT = 0.925;
/** How usual a form is; the bare number needs more to be believed. */
const ALONE: readonly (readonly [string, number])[] = [
	['p. #', 1],
	['p.#', 1],
	['p#', 1],
	['p #', 0.8],
	['P. #', 0.6],
	['pg. #', 0.5],
	['pg #', 0.5],
	['page #', 1],
	['Page #', 1],
	['-#-', 1],
	['- # -', 1],
	['-# -', 0.3],
	['- #-', 0.3],
	// A dash is easily lost.
	['-#', 0.15],
	['- #', 0.15],
	['#-', 0.15],
	['# -', 0.15],
	['(#)', 0.3],
	['#.', 0.1],
	['#', 0.4]
];
const BEFORE = ['', 'p. ', 'p.', 'p ', 'p', 'page ', 'Page ', 'pg. '] as const;
const BETWEEN = ['/', ' / ', ' of ', 'of', ' / '] as const;
/** From this probability on, a number is there: of 110 pages without one, none reached it. */
export const SURE_NUMBER = 0.15;
/** Odds that what looks like a number is none. */
const NOT_READ = 0.02;
const LEAST = 0.01;

/** The count of pages behind it was not read. */
const WITHOUT_COUNT = ['/', ' /', ' of', 'of'] as const;
const COUNT_LOST = 0.3;
/** What a crossed seven and one with a hook are read as; never where it would stand alone. */
const SEVENS = ['+', '?'] as const;
const SEVEN = 0.15;

let forms: Trie<PageNumber> | null = null;

function numberForms(): Trie<PageNumber> {
	if (forms) return forms;
	const trie = emptyTrie<PageNumber>();
	const add = (text: string, value: PageNumber, weight: number) => {
		addTo(trie, text, value, weight);
		if (!text.includes('7') || /^\W*\d+\W*$/.test(text)) return;
		for (const sign of SEVENS) {
			const misread = [text.replace('7', sign), text.replace(/7(?=\D*$)/, sign), text.replaceAll('7', sign)];
			for (const one of new Set(misread)) addTo(trie, one, value, SEVEN * weight);
		}
	};
	for (let number = 1; number <= HIGHEST; number++) {
		const alone = { number, of: null };
		for (const [form, weight] of ALONE) add(form.replace('#', String(number)), alone, weight);
		for (const before of BEFORE) {
			for (const between of WITHOUT_COUNT) add(`${before}${number}${between}`, alone, COUNT_LOST);
		}
		for (let of = number; of <= HIGHEST; of++) {
			for (const before of BEFORE) {
				for (const between of BETWEEN) add(`${before}${number}${between}${of}`, { number, of }, 1);
			}
		}
	}
	forms = trie;
	return trie;
}

/**
 * The page number read off the corners, header and foot of a page: "p. 2/4", "2 of 4", "page 2", "-2-", "2".
 *
 * @param width and height of the page in pixels
 * @returns likeliest first; none where no number stands
 */
export function pageNumberOptions(
	lines: readonly ReadLine[],
	[width, height]: readonly [number, number]
): NumberOption[] {
	const { boxes, lineHeight, bodyLeft } = pageLayout(lines);
	const odds = new Map<string, PageNumber & { odds: number }>();
	lines.forEach((line, i) => {
		const [x0, y0, x1, y1] = boxes[i]!;
		const header = (y0 + y1) / 2 < HEADER * height;
		const foot = (y0 + y1) / 2 > FOOT * height;
		if (!header && !foot) return;
		// A bare number is one where nothing else stands beside it, in a corner or in the middle of the foot.
		const middle = (x0 + x1) / 2 / width;
		const lonely = x1 - x0 < 3 * lineHeight && (foot || middle > 0.7 || x1 < bodyLeft - 0.3 * lineHeight);
		const here = new Map<string, PageNumber & { odds: number }>();
		// Scores of several cuts of one piece are averaged.
		for (const posterior of line.posteriors) {
			for (const [key, one] of bestIn(posterior, lonely)) {
				const odds = one.odds / line.posteriors.length + (here.get(key)?.odds ?? 0);
				here.set(key, { ...one, odds });
			}
		}
		for (const [key, one] of here) {
			const known = odds.get(key);
			if (!known || known.odds < one.odds) odds.set(key, one);
		}
	});
	const all = [...odds.values()].reduce((sum, o) => sum + o.odds, NOT_READ);
	return [...odds.values()]
		.map(({ number, of, odds }) => ({ number, of, probability: odds / all }))
		.filter((o) => o.probability >= LEAST)
		.sort((a, b) => b.probability - a.probability);
}

/**
 * What number a page carries by itself, with every count of pages it may stand beside; null where none is sure enough.
 *
 * @param options as `pageNumberOptions` gives them
 */
export function readNumber(options: readonly NumberOption[]): NumberOption | null {
	const sums = new Map<number, NumberOption>();
	for (const { number, of, probability } of options) {
		const known = sums.get(number);
		sums.set(number, { number, of: known?.of ?? of, probability: probability + (known?.probability ?? 0) });
	}
	const [best] = [...sums.values()].sort((a, b) => b.probability - a.probability);
	return best && best.probability >= SURE_NUMBER ? best : null;
}

/** The best way to read each number at the end of a line, from the start of one of its words on. */
function bestIn(posterior: LinePosterior, lonely: boolean): Map<string, PageNumber & { odds: number }> {
	const best = new Map<string, PageNumber & { odds: number }>();
	for (const [from, start] of wordStarts(posterior)) {
		const rest = part(posterior, from, posterior.steps);
		for (const { value, whole, weight, text } of scoreStrings(rest, numberForms(), rest.steps)) {
			const bare = /^(- ?)?\d+( ?-|\.)?$/.test(text) && !/^-.*-$/.test(text);
			const odds = weight * whole * (bare ? (lonely && start ? 0.3 : 0) : 1);
			if (odds < 1e-4) continue;
			const key = `${value.number}/${value.of ?? ''}`;
			const known = best.get(key);
			if (!known || known.odds < odds) best.set(key, { ...value, odds });
		}
	}
	return best;
}

/** Steps at which a word may begin, and whether it is the line's first. */
function wordStarts({ steps, data }: LinePosterior): [number, boolean][] {
	const starts: [number, boolean][] = [[0, true]];
	for (let t = 0; t + 1 < steps; t++) {
		if (data[t * CLASSES + SPACE]! > 0.25) starts.push([t + 1, false]);
	}
	return starts;
}
