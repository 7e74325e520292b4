import type { LabelForms, LabelMeaning } from './labelForms';
import { CLASSES, classOf, NOTHING, part, type LinePosterior } from './linePosterior';
import { pageLayout, type PageLayout } from './pageLayout';
import type { ReadLine } from './readLine';
import { scoreStrings, type Scored } from './scoreStrings';

/** What a label may say, and how likely it says that. */
export interface LabelOption {
	readonly question: string | null;
	readonly part: string | null;
	/** 0 to 1; the options of one place and "no label" add up to 1. */
	readonly probability: number;
}

/** A place on a page where a label may stand. */
export interface LabelCandidate {
	/** Of the line's left and upper edge, as fractions of the page. */
	readonly x: number;
	readonly y: number;
	/** As read, without regard to what would make sense. */
	readonly text: string;
	/** Likeliest first. */
	readonly options: readonly LabelOption[];
}

/** One reading of one place, described by numbers that tell labels from other writing. */
export interface DescribedOption {
	readonly line: number;
	readonly meaning: LabelMeaning;
	readonly features: readonly number[];
}

export const FEATURES = [
	'bias',
	'log score',
	'named',
	'signed',
	'bare',
	'margin',
	'inside',
	'bare in margin',
	'bare inside',
	'signed inside',
	'framed',
	'alone',
	'bare, not alone',
	'space above',
	'text beside',
	'in a row',
	'header',
	'foot',
	'part only',
	'part only, bare',
	'question and part',
	'decimal or long number',
	'word alone',
	'word in a line',
	'log score of question and part',
	'log score of part only',
	'log score under a hundredth'
] as const;

/** Fitted on generated packets by multinomial logistic regression (docs/reading.md says on which). */
export const WEIGHTS: readonly number[] = [
	-0.15, 2.39, 1.65, 0.93, -2.72, 0.43, -1.45, 1.22, -1.08, 0.06, 4.29, -0.42, 0.54, 2.15, 3.68, -0.69, -2.57,
	-1.81, 0.88, 0.3, 6.05, -4.24, 0.21, -0.02, 0.29, 0, -1.4
];

/** A long number. */
const LONG_NUMBER = /^\W{0,2}\d{3,}/;
/** A measured value: "3.1", also where digits were taken for letters. */
const DECIMAL = /^\W{0,2}[\dSIlOoQZB%]{1,4}[.,·][\dSIlOoZB]{1,3}(?![a-z])/;
/** A word of the text. */
const WORD = /^[a-z]{2,}[.,]?(\s|$)/i;
const LEAST_SCORE = 1e-5;
const LEAST_PROBABILITY = 0.01;

export function describeOptions(
	lines: readonly ReadLine[],
	height: number,
	{ trie }: LabelForms,
	layout: PageLayout = pageLayout(lines)
): DescribedOption[] {
	const { boxes, lineHeight, bodyLeft, pitch } = layout;
	return lines.flatMap((line, i) => {
		// Bullets and stray strokes.
		if (line.kind !== 'framed' && line.text !== '' && !/[\p{L}\p{N}]/u.test(line.text)) return [];
		const [x0, y0, x1, y1] = boxes[i]!;
		const cuts = line.kind === 'framed' ? line.posteriors.flatMap(withoutFrame) : line.posteriors;
		const best = meanOverCuts(cuts.map((p) => bestByMeaning(scoreStrings(p, trie))));
		if (best.length === 0) return [];
		const fromBody = (x0 - bodyLeft) / lineHeight;
		const margin = fromBody < -0.8;
		const inside = fromBody > 1.2;
		const middle = (y0 + y1) / 2;
		const beside = boxes.filter(
			(b, j) =>
				j !== i &&
				lines[j]!.kind === 'line' &&
				middle > b[1] &&
				middle < b[3] &&
				(b[0] > x1 - 0.5 * lineHeight || b[2] < x0 + 0.5 * lineHeight)
		);
		const above = boxes
			.filter(
				(b, j) =>
					j !== i &&
					lines[j]!.kind === 'line' &&
					b[3] < middle &&
					b[0] < bodyLeft + 8 * lineHeight &&
					b[2] > bodyLeft
			)
			.reduce((least, b) => Math.min(least, middle - (b[1] + b[3]) / 2), Infinity);
		const textBeside = beside.some(
			(b) => b[0] > x1 - 0.5 * lineHeight && b[0] < x1 + 5 * lineHeight && b[2] - b[0] > 3 * lineHeight
		);
		const width = (x1 - x0) / lineHeight;
		return best.map(({ scored, score }): DescribedOption => {
			const { form, question, part } = scored.value;
			const alone = scored.whole > 0.5 * score || (line.kind !== 'line' && width < 4);
			const flags = [
				true,
				0,
				form === 'named',
				form === 'signed',
				form === 'bare',
				margin,
				inside,
				form === 'bare' && margin,
				form === 'bare' && inside,
				form === 'signed' && inside,
				line.kind === 'framed',
				alone,
				form === 'bare' && !alone,
				above > 1.5 * pitch,
				textBeside,
				beside.length >= 2,
				y0 < 0.075 * height,
				y0 > 0.94 * height,
				question === null,
				question === null && form === 'bare',
				question !== null && part !== null,
				DECIMAL.test(line.text) || LONG_NUMBER.test(line.text),
				form !== 'named' && alone && WORD.test(line.text),
				form !== 'named' && !alone && WORD.test(line.text)
			];
			const features = flags.map(Number);
			const log = Math.log10(score);
			features[1] = log;
			features.push(question !== null && part !== null ? log : 0);
			features.push(question === null ? log : 0);
			features.push(Math.min(0, log + 2));
			return { line: i, meaning: scored.value, features };
		});
	});
}

/** What the side of a frame that was not peeled off whole is read as. */
const STRAY = [..."Il1|/,.:'-"].map(classOf);

/** As it was read, and where it begins like the side of a frame, also without that. */
function withoutFrame(posterior: LinePosterior): LinePosterior[] {
	const { steps, data } = posterior;
	let begun = false;
	for (let t = 0; t < steps; t++) {
		const nothing = data[t * CLASSES + NOTHING]!;
		const stray = STRAY.reduce((sum, k) => sum + data[t * CLASSES + k]!, 0);
		if (begun && stray < 0.5) return [posterior, part(posterior, t, steps)];
		if (stray >= 0.5) begun = true;
		else if (nothing < 0.5) break;
	}
	return [posterior];
}

interface Best {
	readonly scored: Scored<LabelMeaning>;
	readonly score: number;
}

/** Scores of several cuts of one place, averaged; of each meaning, the form it was best read in is kept. */
function meanOverCuts(cuts: readonly Best[][]): Best[] {
	if (cuts.length === 1) return cuts[0]!;
	const sums = new Map<string, Best & { top: number }>();
	for (const one of cuts.flat()) {
		const { question, part } = one.scored.value;
		const key = `${question ?? ''}/${part ?? ''}`;
		const known = sums.get(key);
		const score = one.score / cuts.length;
		if (!known) sums.set(key, { ...one, score, top: one.score });
		else if (one.score > known.top) sums.set(key, { ...one, score: known.score + score, top: one.score });
		else sums.set(key, { ...known, score: known.score + score });
	}
	return [...sums.values()];
}

/** The best way to read each meaning off a line. */
function bestByMeaning(all: readonly Scored<LabelMeaning>[]): Best[] {
	const best = new Map<string, Best>();
	for (const scored of all) {
		const last = scored.text.at(-1)!;
		// "3The" may be a label that ran into the line; "3a" + "nd" is a word, and "1" + "2" another number.
		const joined = /[a-z]/i.test(last) ? 0 : /\d/.test(last) ? 0.15 : 1;
		const score = Math.sqrt(scored.weight) * (scored.whole + scored.parted + joined * scored.joined);
		if (score < LEAST_SCORE) continue;
		const { question, part } = scored.value;
		const key = `${question ?? ''}/${part ?? ''}`;
		const known = best.get(key);
		if (!known || known.score < score) best.set(key, { scored, score });
	}
	return [...best.values()];
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
	const places = new Map<number, { meaning: LabelMeaning; odds: number }[]>();
	for (const { line, meaning, features } of describeOptions(lines, height, forms, layout)) {
		const odds = Math.exp(features.reduce((sum, f, k) => sum + f * WEIGHTS[k]!, 0));
		places.set(line, [...(places.get(line) ?? []), { meaning, odds }]);
	}
	const found: LabelCandidate[] = [];
	for (const [line, options] of places) {
		const all = 1 + options.reduce((sum, o) => sum + o.odds, 0);
		const likely = options
			.map(({ meaning: { question, part }, odds }) => ({ question, part, probability: odds / all }))
			.filter((o) => o.probability >= LEAST_PROBABILITY)
			.sort((a, b) => b.probability - a.probability);
		if (likely.length === 0) continue;
		const [x0, y0] = layout.boxes[line]!;
		found.push({ x: x0 / width, y: y0 / height, text: lines[line]!.text.slice(0, 24), options: likely });
	}
	return merge(found, layout.lineHeight / width, layout.lineHeight / height);
}

/** From this on a reading claims that a label stands there. */
const CLAIMED = 0.3;

/**
 * Two readings of one place, such as a framed label and the line that begins with it, are one candidate: the surer one.
 * What it may say is asked of both, where both claim to see a label.
 */
function merge(found: LabelCandidate[], dx: number, dy: number): LabelCandidate[] {
	const kept: LabelCandidate[] = [];
	for (const one of [...found].sort((a, b) => sure(b) - sure(a))) {
		const at = kept.findIndex((k) => Math.abs(k.x - one.x) < dx && Math.abs(k.y - one.y) < 0.6 * dy);
		if (at < 0) kept.push(one);
		else if (sure(one) >= CLAIMED) kept[at] = pooled(kept[at]!, one);
	}
	return kept.sort((a, b) => a.y - b.y || a.x - b.x);
}

/** Both readings' options, as likely as their weighted mean, and as sure together as the surer reading was. */
function pooled(surer: LabelCandidate, other: LabelCandidate): LabelCandidate {
	const all = sure(surer) + sure(other);
	const options = new Map<string, LabelOption>();
	for (const option of [...surer.options, ...other.options]) {
		const key = `${option.question ?? ''}/${option.part ?? ''}`;
		const probability = (option.probability * sure(surer)) / all + (options.get(key)?.probability ?? 0);
		options.set(key, { ...option, ...options.get(key), probability });
	}
	return { ...surer, options: [...options.values()].sort((a, b) => b.probability - a.probability) };
}

const sure = (c: LabelCandidate) => c.options.reduce((sum, o) => sum + o.probability, 0);
