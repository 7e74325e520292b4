import { describeLabels } from './describeLabels';
import type { LabelForm, LabelForms, LabelMeaning } from './labelForms';
import { WEIGHTS } from './labelWeights';
import { oddsOf } from './oddsOf';
import { pageLayout } from './pageLayout';
import { pageNumbersByLine, type NumberChance } from './pageNumber';
import type { ReadLine } from './readLine';

/** What a label may say, and how likely it says that. */
export interface LabelOption {
	readonly question: string | null;
	readonly part: string | null;
	/** How it is written, if that is what it says. */
	readonly form: LabelForm;
	/** 0 to 1; the options of one place and "no label" add up to 1. */
	readonly probability: number;
}

/** A place on a page where a label may stand. */
export interface LabelCandidate {
	/** Of the line's left and upper edge, as fractions of the page. */
	readonly x: number;
	readonly y: number;
	/** How far right of where lines begin, in heights of a line. */
	readonly fromBody: number;
	readonly framed: boolean;
	/** As read, without regard to what would make sense. */
	readonly text: string;
	/** Likeliest first. */
	readonly options: readonly LabelOption[];
}

const LEAST_PROBABILITY = 0.01;

/** Between these a place hangs in the balance. */
const HARDLY = 0.02;
const SURELY = 0.97;
/** Second opinions asked for on one page. */
const MOST_UNSURE = 5;

/** Places at which it is not sure whether a label stands there, or which one; the least sure first. */
export function unsurePlaces(
	lines: readonly ReadLine[],
	size: readonly [number, number],
	forms: LabelForms
): number[] {
	return [...oddsByPlace(lines, size, forms, pageNumbersByLine(lines, size))]
		.map(([line, options]) => {
			const all = 1 + options.reduce((sum, o) => sum + o.odds, 0);
			return { line, any: 1 - 1 / all, best: Math.max(...options.map((o) => o.odds)) / all };
		})
		.filter(({ any, best }) => any > HARDLY && best < SURELY)
		.sort((a, b) => Math.abs(a.best - 0.5) - Math.abs(b.best - 0.5))
		.slice(0, MOST_UNSURE)
		.map(({ line }) => line);
}

function oddsByPlace(
	lines: readonly ReadLine[],
	size: readonly [number, number],
	forms: LabelForms,
	numbered: ReadonlyMap<number, NumberChance>
): Map<number, { meaning: LabelMeaning; odds: number }[]> {
	const places = new Map<number, { meaning: LabelMeaning; odds: number }[]>();
	for (const { line, meaning, features, both } of describeLabels(lines, size, forms, numbered)) {
		const weights = both ? WEIGHTS.both : WEIGHTS.own;
		const odds = oddsOf(features, weights);
		places.set(line, [...(places.get(line) ?? []), { meaning, odds }]);
	}
	return places;
}

/**
 * Where on a page labels may stand, and what they may say, from the top down.
 *
 * @param width and height of the page in pixels
 */
export function labelCandidates(
	lines: readonly ReadLine[],
	[width, height]: readonly [number, number],
	forms: LabelForms
): LabelCandidate[] {
	const layout = pageLayout(lines);
	const numbered = pageNumbersByLine(lines, [width, height]);
	const found: LabelCandidate[] = [];
	for (const [line, options] of oddsByPlace(lines, [width, height], forms, numbered)) {
		const all = 1 + options.reduce((sum, o) => sum + o.odds, 0);
		// "3 of 8" is the page's number, "3" in a corner may be, and nothing is both that and a label.
		const { written, bare } = numbered.get(line) ?? { written: 0, bare: 0 };
		const free = (1 - written) * (1 - bare);
		const likely = options
			.map(({ meaning: { question, part, form }, odds }) => ({
				question,
				part,
				form,
				probability: (free * odds) / all
			}))
			.filter((o) => o.probability >= LEAST_PROBABILITY)
			.sort((a, b) => b.probability - a.probability);
		if (likely.length === 0) continue;
		const [x0, y0] = layout.boxes[line]!;
		const { kind, text } = lines[line]!;
		found.push({
			x: x0 / width,
			y: y0 / height,
			fromBody: (x0 - layout.bodyLeft) / layout.lineHeight,
			framed: kind === 'framed',
			text: asWritten(text),
			options: likely
		});
	}
	const [dx, dy] = [layout.lineHeight / width, layout.lineHeight / height];
	return joined(merge(found, dx, dy), dx, dy);
}

/** Letters of a line that are shown for its label. */
const SHOWN = 24;

/** Capitals are not told apart by the reader of short writing; "Question 3" and "Q3" are written with one. */
function asWritten(text: string): string {
	return text.slice(0, SHOWN).replace(/^[a-z](?=[a-z]*[. ]*\d)/, (first) => first.toUpperCase());
}

/** From this on a reading claims that a label stands there. */
const CLAIMED = 0.3;

/** Readings of one place begin this near each other, in heights of a line; what begins further in is the "c)" of "1. c)". */
const ASIDE = 0.6;

/**
 * Two readings of one place, such as a framed label and the line that begins with it, are one candidate: the surer one.
 * What it may say is asked of both, where both claim to see a label.
 */
function merge(found: LabelCandidate[], dx: number, dy: number): LabelCandidate[] {
	const kept: LabelCandidate[] = [];
	for (const one of [...found].sort((a, b) => sure(b) - sure(a))) {
		const at = kept.findIndex((k) => Math.abs(k.x - one.x) < ASIDE * dx && Math.abs(k.y - one.y) < 0.6 * dy);
		if (at < 0) kept.push(one);
		else if (sure(one) >= CLAIMED) kept[at] = wordBeyond(kept[at]!, one) ?? pooled(kept[at]!, one);
	}
	return inRows(kept, dy);
}

/** A frame with one or two letters and hardly a sign. */
const FIRST_LETTERS = /^([a-z]{1,2})\W?$/i;

/** Where a frame, or what passes for one, holds no more than the first letters of a word that names a question: the word. */
function wordBeyond(one: LabelCandidate, other: LabelCandidate): LabelCandidate | null {
	const [framed, line] = one.framed ? [one, other] : [other, one];
	if (!framed.framed || line.framed || line.options[0]?.form !== 'named') return null;
	const [, letters] = FIRST_LETTERS.exec(framed.text) ?? [];
	return letters && line.text.toLowerCase().startsWith(letters.toLowerCase()) ? line : null;
}

/** From the top down, and in one row from left to right. */
function inRows(found: readonly LabelCandidate[], dy: number): LabelCandidate[] {
	const rows: LabelCandidate[][] = [];
	for (const one of [...found].sort((a, b) => a.y - b.y)) {
		const row = rows.at(-1);
		if (row && one.y - row[0]!.y < 0.6 * dy) row.push(one);
		else rows.push([one]);
	}
	return rows.flatMap((row) => row.sort((a, b) => a.x - b.x));
}

/** Parts of one label stand no further apart, in heights of a line, along it and across it. */
const REACH = 6;
const BESIDE = 0.6;
/** What says the same may lie further down: lines slope. */
const SAME = 0.8;

/**
 * "Q4" and "(d)" right behind it are one label; so are "Question 4" and its own "4 (d)", and "No 7" and its own "7", found
 * once more by itself. What is joined is as sure as both.
 */
function joined(found: readonly LabelCandidate[], dx: number, dy: number): LabelCandidate[] {
	const kept: LabelCandidate[] = [];
	for (const one of found) {
		const before = kept.at(-1);
		const near = before && Math.abs(one.y - before.y) < SAME * dy && one.x - before.x < REACH * dx;
		const [a, b] = [before?.options[0], one.options[0]];
		if (!near || !a || !b || a.probability < CLAIMED) {
			kept.push(one);
		} else if (a.question === b.question && a.part === b.part) {
			if (sure(one) > sure(before)) kept[kept.length - 1] = { ...one, x: before.x };
		} else if (Math.abs(one.y - before.y) >= BESIDE * dy) {
			kept.push(one);
		} else if (b.question === null && a.question !== null && a.part === b.part) {
			// The part is seen once more.
		} else if (
			a.question !== null &&
			a.part === null &&
			(b.question === null || b.question === a.question) &&
			b.probability >= CLAIMED
		) {
			const options = before.options.flatMap((q) =>
				q.question === null
					? []
					: [
							...one.options
								.filter((p) => p.part !== null && (p.question === null || p.question === q.question))
								.map((p) => ({ ...q, part: p.part, probability: q.probability * p.probability })),
							{ ...q, probability: q.probability * Math.max(0, 1 - sure(one)) }
						]
			);
			const text = `${before.text} ${one.text}`.slice(0, SHOWN);
			kept[kept.length - 1] = {
				...before,
				text,
				options: summed(options)
					.filter((o) => o.probability >= LEAST_PROBABILITY)
					.sort((x, y) => y.probability - x.probability)
			};
		} else kept.push(one);
	}
	return kept;
}

/** Both readings' options, as likely as their weighted mean, and as sure together as the surer reading was. */
function pooled(surer: LabelCandidate, other: LabelCandidate): LabelCandidate {
	const share = sure(surer) / (sure(surer) + sure(other));
	const options = summed(
		[...surer.options, ...other.options].map((o) => ({ ...o, probability: share * o.probability }))
	);
	return { ...surer, options: options.sort((a, b) => b.probability - a.probability) };
}

/** Each meaning once, as likely as all that say it together. */
function summed(all: readonly LabelOption[]): LabelOption[] {
	const options = new Map<string, LabelOption>();
	for (const option of all) {
		const key = `${option.question ?? ''}/${option.part ?? ''}`;
		const probability = option.probability + (options.get(key)?.probability ?? 0);
		options.set(key, { ...option, ...options.get(key), probability });
	}
	return [...options.values()];
}

const sure = (c: LabelCandidate) => c.options.reduce((sum, o) => sum + o.probability, 0);
