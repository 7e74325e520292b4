import { part, wordStarts, type LinePosterior } from './linePosterior';
import { NUMBER_WEIGHTS } from './numberWeights';
import { oddsOf } from './oddsOf';
import { pageLayout, type LineBox } from './pageLayout';
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
/** From this probability on, a number is there. */
export const SURE_NUMBER = 0.5;
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

/** One reading of one place as a page number, described by numbers that tell page numbers from other writing. */
export interface DescribedNumber {
	readonly line: number;
	readonly value: PageNumber;
	readonly features: readonly number[];
}

export const NUMBER_FEATURES = [
	'bias',
	'log score',
	'log score under a hundredth',
	'usual form',
	'count of pages',
	'word before',
	'dashes or brackets',
	'bare',
	'behind other words',
	'foot',
	'right corner',
	'left corner',
	'middle',
	'far down or up',
	'two digits',
	'two digits, bare',
	'log score, bare'
] as const;

const BARE = NUMBER_FEATURES.indexOf('bare');

/** Every way to read a page number off the corners, header and foot of a page. */
export function describeNumbers(
	lines: readonly ReadLine[],
	[width, height]: readonly [number, number]
): DescribedNumber[] {
	const { boxes, lineHeight, bodyLeft } = pageLayout(lines);
	return lines.flatMap((line, i): DescribedNumber[] => {
		const [x0, y0, x1, y1] = boxes[i]!;
		const y = (y0 + y1) / 2 / height;
		const foot = y > FOOT;
		if (y >= HEADER && !foot) return [];
		const x = (x0 + x1) / 2 / width;
		const inCorner = foot || x > 0.7 || x1 < bodyLeft - 0.3 * lineHeight;
		const lonely =
			x1 - x0 < 3 * lineHeight && inCorner && !boxes.some((other) => isBeside(other, boxes[i]!, lineHeight));
		const here = new Map<string, Found>();
		// Scores of several cuts of one piece are averaged.
		for (const posterior of line.posteriors) {
			for (const [key, one] of bestIn(posterior)) {
				const known = here.get(key);
				const score = one.score / line.posteriors.length + (known?.score ?? 0);
				here.set(key, { ...(known && known.weight > one.weight ? known : one), score });
			}
		}
		return [...here.values()].flatMap(({ value, score, weight, text, start }): DescribedNumber[] => {
			const bare = /^(- ?)?\d+( ?-|\.)?$/.test(text) && !/^-.*-$/.test(text);
			// A bare number is one where nothing else stands beside it, in a corner or in the middle of the foot.
			if (bare && !(lonely && start)) return [];
			const log = Math.log10(score);
			const flag = Number;
			const one = {
				line: i,
				value,
				features: [
					1,
					log,
					Math.min(0, log + 2),
					Math.log10(weight),
					flag(value.of !== null),
					flag(/^p/i.test(text)),
					flag(/^[-(].*[-)]$/.test(text)),
					flag(bare),
					flag(!start),
					flag(foot),
					flag(x > 0.7),
					flag(x < 0.25),
					flag(x > 0.4 && x < 0.6),
					flag(y < 0.02 || y > 0.975),
					flag(value.number > 9),
					flag(bare && value.number > 9),
					bare ? log : 0
				]
			};
			return [one];
		});
	});
}

/** A neighbour nearer than this, in heights of a line, belongs to what is written: the 9 in "3 of 9" is no page number. */
const BESIDE = 2;
/** What is flatter than this share of the other is a dash beside it. */
const DASH = 0.5;

function isBeside(other: LineBox, box: LineBox, lineHeight: number): boolean {
	const height = box[3] - box[1];
	const middle = (box[1] + box[3]) / 2;
	const inRow = other[1] < middle && other[3] > middle && other[3] - other[1] > DASH * height;
	const left = box[0] - other[2];
	const right = other[0] - box[2];
	return inRow && Math.max(left, right) > -0.2 * height && Math.max(left, right) < BESIDE * lineHeight;
}

/**
 * The page number read off the corners, header and foot of a page: "p. 2/4", "2 of 4", "page 2", "-2-", "2".
 *
 * @param size width and height of the page in pixels
 * @returns likeliest first; none where no number stands
 */
export function pageNumberOptions(
	lines: readonly ReadLine[],
	size: readonly [number, number]
): NumberOption[] {
	const odds = new Map<string, PageNumber & { odds: number }>();
	for (const { value, features } of describeNumbers(lines, size)) {
		const one = { ...value, odds: oddsOf(features, NUMBER_WEIGHTS) };
		const key = `${value.number}/${value.of ?? ''}`;
		const known = odds.get(key);
		if (!known || known.odds < one.odds) odds.set(key, one);
	}
	const all = [...odds.values()].reduce((sum, o) => sum + o.odds, 1);
	return [...odds.values()]
		.map(({ number, of, odds }) => ({ number, of, probability: odds / all }))
		.filter((o) => o.probability >= LEAST)
		.sort((a, b) => b.probability - a.probability);
}

/**
 * How likely each line holds a page number that is written as nothing else is, with a count, a word or dashes beside it.
 * A bare number says nothing here: it may as well be a label.
 *
 * @returns 0 to 1 by the line's index; nothing of lines that hold none
 */
export function pageNumbersByLine(
	lines: readonly ReadLine[],
	size: readonly [number, number]
): Map<number, number> {
	const sums = new Map<number, number>();
	for (const { line, features } of describeNumbers(lines, size)) {
		if (features[BARE] === 1) continue;
		sums.set(line, (sums.get(line) ?? 0) + oddsOf(features, NUMBER_WEIGHTS));
	}
	return new Map([...sums].map(([line, odds]) => [line, odds / (1 + odds)]));
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

interface Found {
	readonly value: PageNumber;
	readonly score: number;
	readonly weight: number;
	readonly text: string;
	/** Whether nothing stands before it. */
	readonly start: boolean;
}

/** The best way to read each number at the end of a line, from the start of one of its words on. */
function bestIn(posterior: LinePosterior): ReadonlyMap<string, Found> {
	const before = scored.get(posterior);
	if (before) return before;
	const best = new Map<string, Found>();
	for (const [from, start] of wordStarts(posterior)) {
		const rest = part(posterior, from, posterior.steps);
		for (const { value, whole, weight, text } of scoreStrings(rest, numberForms(), rest.steps)) {
			if (whole < 1e-5) continue;
			const key = `${value.number}/${value.of ?? ''}`;
			const known = best.get(key);
			if (!known || known.score * known.weight < whole * weight)
				best.set(key, { value, score: whole, weight, text, start });
		}
	}
	scored.set(posterior, best);
	return best;
}

/** A page's places are asked for its number, and once more for what is no label because of it: they are scored once. */
const scored = new WeakMap<LinePosterior, ReadonlyMap<string, Found>>();
