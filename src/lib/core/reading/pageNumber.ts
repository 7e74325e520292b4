import { bestCharacters, CLASSES, part, SPACE, wordStarts, type LinePosterior } from './linePosterior';
import { behindNamingWord, PAGE_WORDS } from './namingWord';
import { NUMBER_WEIGHTS } from './numberWeights';
import { oddsOf } from './oddsOf';
import { pageLayout, strangeness, type LineBox } from './pageLayout';
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
/** Page numbers stand within these parts of the page's height, most of them within so much of its edges. */
const HEADER = 0.12;
const FOOT = 0.91;
const NEAR_EDGE = 0.05;
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
	['[#]', 0.3],
	['sheet #', 0.3],
	['Sheet #', 0.3],
	['Seite #', 0.3],
	['#.', 0.1],
	['#', 0.4]
];
const BEFORE = ['', 'p. ', 'p.', 'p ', 'p', 'page ', 'Page ', 'pg. ', 'pg ', 'sheet ', 'Seite '] as const;
const BETWEEN = ['/', ' / ', ' of ', 'of', ' / '] as const;
/** From this probability on, a number is there. */
export const SURE_NUMBER = 0.5;
const LEAST = 0.01;
/** What is read less likely than this is not there. */
const LEAST_SCORE = 1e-5;

/** The count of pages behind it was not read. */
const WITHOUT_COUNT = ['/', ' /', ' of', 'of'] as const;
const COUNT_LOST = 0.3;
/** What a crossed seven and one with a hook are read as; never where it would stand alone. */
const SEVENS = ['+', '?'] as const;
const SEVEN = 0.15;

/** Words for a page, whose number stands apart or was not read: the g of "pg" is no 9. */
const WORDS = ['p', 'p.', 'pg', 'pg.', 'page', 'Page', 'sheet', 'Sheet', 'Seite', 'of', 'no', 'No.'] as const;
let words: Trie<string> | null = null;

function pageWords(): Trie<string> {
	if (words) return words;
	words = emptyTrie<string>();
	for (const word of WORDS) addTo(words, word, word, 1);
	return words;
}

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
	/** The lines that it is read off: what stands beside each other is one. */
	readonly lines: readonly number[];
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
	'log score, bare',
	'otherwise read',
	'part of more',
	'joined of several',
	'far from the edge',
	'bare, in no corner',
	'bare, before a line',
	'page hardly read',
	'page without lines',
	'word misread'
] as const;

/** Nothing but a number. */
const NUMBER = /^\d{1,2}\.?$/;

const BARE = NUMBER_FEATURES.indexOf('bare');

/** Every way to read a page number off the corners, header and foot of a page. */
export function describeNumbers(
	lines: readonly ReadLine[],
	[width, height]: readonly [number, number]
): DescribedNumber[] {
	const layout = pageLayout(lines);
	const { boxes, lineHeight, bodyLeft } = layout;
	const strange = strangeness(layout);
	const outside = boxes.flatMap(([, y0, , y1], i) => {
		const y = (y0 + y1) / 2 / height;
		return (y < HEADER || y > FOOT) && lines[i]!.posteriors.length > 0 ? [i] : [];
	});
	const rows = rowsOf(outside, boxes, lineHeight);
	const single = outside.map((i) => ({ lines: [i], box: boxes[i]!, posteriors: lines[i]!.posteriors }));
	const several = rows.map((row) => ({
		lines: row,
		box: around(row.map((i) => boxes[i]!)),
		posteriors: [besideEachOther(row.map((i) => lines[i]!.posteriors[0]!))]
	}));
	return [...single, ...several].flatMap(({ lines: read, box, posteriors }): DescribedNumber[] => {
		const [x0, y0, x1, y1] = box;
		const y = (y0 + y1) / 2 / height;
		const foot = y > FOOT;
		const x = (x0 + x1) / 2 / width;
		const inCorner = foot || x > 0.7 || x1 < bodyLeft - 0.3 * lineHeight;
		const lonely = x1 - x0 < 3 * lineHeight && !boxes.some((other) => isBeside(other, box, lineHeight));
		const beforeLine = boxes.some(
			(b, i) =>
				lines[i]!.kind === 'line' &&
				b[2] - b[0] > LONG * lineHeight &&
				b[0] > x1 - 0.5 * lineHeight &&
				b[0] < x1 + TO_LINE * lineHeight &&
				(y0 + y1) / 2 > b[1] &&
				(y0 + y1) / 2 < b[3]
		);
		// Behind a page's number there may be a count, and no other number: of "pg" and "5" the first may be read as p9.
		const row = read.length === 1 ? rows.find((r) => r.includes(read[0]!)) : undefined;
		const beforeNumber = row?.slice(row.indexOf(read[0]!) + 1).some((i) => NUMBER.test(lines[i]!.text));
		return averaged(posteriors).flatMap((found): DescribedNumber[] => {
			const { value, score, weight, text, start, lead, misread } = found;
			const bare = isBare(text);
			// A bare number is one where nothing else stands beside it.
			if (bare && !(lonely && y1 - y0 > DOT * lineHeight)) return [];
			if (beforeNumber && value.of === null) return [];
			const log = Math.log10(score);
			const flag = Number;
			const one = {
				lines: read,
				value,
				features: [
					1,
					log,
					Math.min(0, log + 2),
					Math.log10(weight),
					flag(value.of !== null),
					flag(/^p/i.test(text)),
					flag(/^[-([].*[-)\]]$/.test(text)),
					flag(bare),
					flag(!start),
					flag(foot),
					flag(x > 0.7),
					flag(x < 0.25),
					flag(x > 0.4 && x < 0.6),
					flag(y < 0.02 || y > 0.975),
					flag(value.number > 9),
					flag(bare && value.number > 9),
					bare ? log : 0,
					lead,
					flag(row !== undefined),
					flag(read.length > 1),
					Math.max(0, Math.min(y, 1 - y) / NEAR_EDGE - 1),
					flag(bare && !inCorner),
					flag(bare && beforeLine),
					...strange,
					flag(misread)
				]
			};
			return [one];
		});
	});
}

/** Lines that stand beside each other in one row, from left to right; none of a line that stands alone. */
function rowsOf(among: readonly number[], boxes: readonly LineBox[], lineHeight: number): number[][] {
	const rows: number[][] = [];
	for (const i of [...among].sort((a, b) => boxes[a]![0] - boxes[b]![0])) {
		const row = rows.find((r) => {
			const last = boxes[r.at(-1)!]!;
			return boxes[i]![0] > last[2] - 0.3 * lineHeight && isBeside(last, boxes[i]!, lineHeight);
		});
		if (row) row.push(i);
		else rows.push([i]);
	}
	return rows.filter((row) => row.length > 1);
}

function around(boxes: readonly LineBox[]): LineBox {
	return [
		Math.min(...boxes.map((b) => b[0])),
		Math.min(...boxes.map((b) => b[1])),
		Math.max(...boxes.map((b) => b[2])),
		Math.max(...boxes.map((b) => b[3]))
	];
}

/** What is read of several places, as if it were one line with spaces between them. */
function besideEachOther(posteriors: readonly LinePosterior[]): LinePosterior {
	const known = rowPosteriors.get(posteriors[0]!);
	const steps = posteriors.reduce((sum, p) => sum + p.steps, posteriors.length - 1);
	if (known?.steps === steps) return known;
	const data = new Float32Array(steps * CLASSES);
	let at = 0;
	for (const [i, { steps, data: read }] of posteriors.entries()) {
		if (i > 0) data[at++ * CLASSES + SPACE] = 1;
		data.set(read, at * CLASSES);
		at += steps;
	}
	const row = { steps, data, caseless: posteriors[0]!.caseless };
	rowPosteriors.set(posteriors[0]!, row);
	return row;
}

/** Rows by what is first in them, so that each is scored once. */
const rowPosteriors = new WeakMap<LinePosterior, LinePosterior>();

/** A neighbour nearer than this, in heights of a line, belongs to what is written: the 9 in "3 of 9" is no page number. */
const BESIDE = 2;
/** A line longer than so many heights, and begun within so many behind a place, is what a label there would belong to. */
const LONG = 5;
const TO_LINE = 8;
/** What is lower than this, in heights of a line, is no digit. */
const DOT = 0.25;
/** What stands in one row has this share of the smaller one's height in common. */
const SHARED = 0.3;
/** What is flatter than this share of the other is a dash beside it. */
const DASH = 0.5;

function isBeside(other: LineBox, box: LineBox, lineHeight: number): boolean {
	const height = box[3] - box[1];
	const inRow =
		Math.min(other[3], box[3]) - Math.max(other[1], box[1]) >
			SHARED * Math.min(height, other[3] - other[1]) && other[3] - other[1] > DASH * height;
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

/** How likely one line holds the page's number, 0 to 1. */
export interface NumberChance {
	/** Written as nothing else is: with a count, a word or dashes beside it. */
	readonly written: number;
	/** Bare, as a label may be as well. */
	readonly bare: number;
}

/** By the line's index; nothing of lines that hold none. */
export function pageNumbersByLine(
	lines: readonly ReadLine[],
	size: readonly [number, number]
): Map<number, NumberChance> {
	const sums = new Map<number, NumberChance>();
	// A page has one number: where it is written out, a bare one is none.
	let writtenOut = 0;
	for (const { lines: read, features } of describeNumbers(lines, size)) {
		const kind = features[BARE] === 1 ? 'bare' : 'written';
		const odds = oddsOf(features, NUMBER_WEIGHTS);
		if (kind === 'written') writtenOut = Math.max(writtenOut, odds);
		for (const line of read) {
			const known = sums.get(line) ?? { written: 0, bare: 0 };
			sums.set(line, { ...known, [kind]: known[kind] + odds });
		}
	}
	return new Map(
		[...sums].map(([line, { written, bare }]) => [
			line,
			{ written: written / (1 + written), bare: bare / (1 + bare + writtenOut) }
		])
	);
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
	/** How likely what is read there is without regard to numbers. */
	readonly free: number;
	/** Whether a word for a page stands before it that was misread. */
	readonly misread: boolean;
}

/** The best way to read each number, over several cuts of one piece: how likely it is in the mean. */
function averaged(posteriors: readonly LinePosterior[]): (Found & { readonly lead: number })[] {
	const found = posteriors.map((posterior) => bestIn(posterior));
	const mean = (values: readonly number[]) => values.reduce((sum, v) => sum + v, 0) / values.length;
	return [...new Set(found.flatMap((one) => [...one.keys()]))].map((key) => {
		const each = found.map((one) => one.get(key));
		const [most] = each.filter((one) => one !== undefined).sort((a, b) => b.weight - a.weight);
		const score = mean(each.map((one) => one?.score ?? 0));
		const free = mean(each.map((one, i) => one?.free ?? likeliestPath(posteriors[i]!)));
		return { ...most!, score, lead: Math.min(0, Math.log10(score / free)) };
	});
}

/** "Work sheet 3" is not the third sheet. */
const WORK = /w.?rk[ -]*$/i;
const SHEET = /^sheet/i;
const textOf = (line: LinePosterior) =>
	bestCharacters(line)
		.map((one) => one.character)
		.join('');

/** What says a number and nothing else. */
const isBare = (text: string) => /^(- ?)?\d+( ?-|\.)?$/.test(text) && !/^-.*-$/.test(text);

const keyOf = ({ value, start }: Pick<Found, 'value' | 'start'>) =>
	`${value.number}/${value.of ?? ''}/${start}`;

/** The best way to read each number at the end of a line: as all that it says, and from one of its later words on. */
function bestIn(posterior: LinePosterior): ReadonlyMap<string, Found> {
	const before = scored.get(posterior);
	if (before) return before;
	const best = new Map<string, Found>();
	for (const [from, start] of wordStarts(posterior)) {
		const rest = part(posterior, from, posterior.steps);
		const isWorksheet = !start && WORK.test(textOf(part(posterior, 0, from)));
		const free = likeliestPath(rest);
		const aWord = wordChance(rest);
		for (const { value, whole, weight, text } of scoreStrings(rest, numberForms(), rest.steps)) {
			// Behind other words a number by itself says nothing of the page.
			if (whole < Math.max(LEAST_SCORE, aWord) || (!start && isBare(text))) continue;
			if (isWorksheet && SHEET.test(text)) continue;
			const key = keyOf({ value, start });
			const known = best.get(key);
			if (!known || known.score * known.weight < whole * weight)
				best.set(key, {
					value,
					score: whole,
					weight,
					text,
					start,
					free,
					misread: false
				});
		}
	}
	for (const one of behindMisreadWord(posterior)) {
		const key = keyOf(one);
		const known = best.get(key);
		if (!known || known.score * known.weight < one.score) best.set(key, one);
	}
	scored.set(posterior, best);
	return best;
}

/** How likely a line is a word for a page, and nothing else. */
function wordChance(line: LinePosterior): number {
	return Math.max(0, ...scoreStrings(line, pageWords(), line.steps).map((word) => word.whole));
}

/** Numbers behind a word for a page that was misread: "pr 8" for "PG. 8". */
function behindMisreadWord(posterior: LinePosterior): Found[] {
	const behind = behindNamingWord(posterior, undefined, PAGE_WORDS);
	if (!behind) return [];
	const { line, likely } = behind;
	const free = likeliestPath(line);
	// The g of "pg" is no 9 behind a p.
	const least = Math.max(LEAST_SCORE, wordChance(posterior) / Math.exp(likely));
	return scoreStrings(line, numberForms(), line.steps)
		.filter(({ whole, text }) => whole >= least && /^\d/.test(text))
		.map(({ value, whole, text }) => ({
			value,
			score: whole,
			weight: 1,
			text: `p. ${text}`,
			start: true,
			free,
			misread: true
		}));
}

/** How likely the likeliest characters are: hardly more than what the line says as a whole. */
function likeliestPath({ steps, data }: LinePosterior): number {
	let sum = 0;
	for (let t = 0; t < steps; t++) {
		let most = 1e-9;
		for (let k = 0; k < CLASSES; k++) most = Math.max(most, data[t * CLASSES + k]!);
		sum += Math.log10(most);
	}
	return 10 ** sum;
}

/** A page's places are asked for its number, and once more for what is no label because of it: they are scored once. */
const scored = new WeakMap<LinePosterior, ReadonlyMap<string, Found>>();
