import type { LabelForms, LabelMeaning } from './labelForms';
import {
	bestCharacters,
	CLASSES,
	classOf,
	NOTHING,
	part,
	type BestCharacter,
	type LinePosterior
} from './linePosterior';
import { highNumberChance, valueChance } from './measuredValue';
import { behindNamingWord } from './namingWord';
import { pageLayout, strangeness, type PageLayout } from './pageLayout';
import { pageNumbersByLine, type NumberChance } from './pageNumber';
import type { ReadLine } from './readLine';
import { scoreStrings, type Scored } from './scoreStrings';
import type { Trie } from './trie';

/** One reading of one place, described by numbers that tell labels from other writing. */
export interface DescribedOption {
	readonly line: number;
	readonly meaning: LabelMeaning;
	/** Whether both readers looked: then other weights hold. */
	readonly both: boolean;
	readonly features: readonly number[];
}

export const FEATURES = [
	'bias',
	'log score',
	'log score of the general reader',
	'log score under a hundredth',
	'readers differ',
	'named',
	'signed',
	'bare',
	'margin',
	'far into the margin',
	'inside',
	'bare in margin',
	'bare inside',
	'signed inside',
	'framed',
	'alone',
	'free behind',
	'bare, not alone',
	'bare, free behind',
	'joined',
	'bare and joined',
	'space above',
	'text beside',
	'in a row',
	'header',
	'foot',
	'part only',
	'part only, bare',
	'question and part',
	'measured value or long number',
	'equation',
	'word alone',
	'word in a line',
	'log score of question and part',
	'log score of part only',
	'small',
	'large',
	'named, another word there',
	'named, a number there',
	'indented',
	'far inside',
	'in a list further in',
	'named and joined',
	'log chance of a measured value',
	'framed, letters behind',
	'named by a word that was misread',
	'evidence of that word',
	'alone, its line goes on',
	'first under the header',
	'near the top',
	'chance of a bare page number',
	'named, alone',
	'signed, alone',
	'an article',
	'behind a word',
	'part only, in brackets',
	'page hardly read',
	'page without lines',
	'log chance of a high number among others'
] as const;

/** A long number. */
const LONG_NUMBER = /^\W{0,2}\d{3,}/;
/** A measured value: "3.1", also where digits were taken for letters, but not "4. B"; a date, a time; a number and its unit. */
const DECIMAL = /^\W{0,2}[\dSIlOoQZB%]{1,4}[.,:·]([\dSIlOoZB]| \d)[\dSIlOoZB]{0,2}(?![a-z])/;
/** A date of which a digit may have been taken for a letter: "1d.1126". */
const DATED = /^\W?\d[\da-z]?[.,:]\d{2}/i;
const MEASURED = /^\d+[.,]?\d* ?(m|cm|mm|km|s|h|kg|g|l|n|j|w|l\/s|m\/s|m3|%)( |$)/i;
/** A sign of a calculation behind the first letters. */
const EQUATION = /^[a-z0-9.,()/ -]{0,6} ?[=+*]/i;
/** A letter that stands for a quantity. */
const DEFINED = /^[a-z] ?=/i;
/** Units that are no letter of a part. */
const UNIT = '(m|cm|mm|km|s|min|l|kg|mg|N|J|W|Pa|%)(\\^?[-= ]?\\d)?';
/** A person's number: so many digits no question has. A stroke may have become a sign, and parted them. */
const IDENTIFIER = /^n[or]\b[.:]? ?(?=(?:\D*\d){3})(?:[\d/|\\] ?){4,}$/i;
/** What an axis or the head of a column says: "Q / m3 s-1", "v (m/s)", "h in cm"; strokes may have become digits. */
const QUANTITY = new RegExp(`^[a-z] ?([/|(\\[1lI(]|in|7) ?${UNIT}([ /.]{0,2}${UNIT}){0,2}[)\\]]?$`, 'i');
/** Words that name a question. */
const NAMING = /^(q|qu|qn|quest|question|no|nr|ex|exercise|task|problem|answer|ans)\b/i;
/** A word of the text. */
const WORD = /^[a-z]{2,}[.,]?(\s|$)/i;
/** "A weir", also with a point that is none, and where the next word, this many heights of a line behind it, is not in the cut. */
const ARTICLE = /^a[.,]?( [a-z]{2,}|$)/i;
const NEXT_WORD = 1.5;
const LEAST_SCORE = 1e-5;
/** More letters behind a label tell no more. */
const MOST_BEHIND = 2;
/** So much for a word that names a question, in tens, is as good as any. */
const MOST_EVIDENCE = 2;

/** Parts of the page's height: what begins above the first stands in the header, above the second near the top. */
const HEADER = 0.075;
const NEAR_TOP = 0.15;
/** How far from the middle of the page that of a heading may lie, as a share of the page's width. */
const IN_THE_MIDDLE = 0.1;
/** A line that is longer than so many of its heights goes on behind a label. */
const GOES_ON = 5;

/** How an item of a list begins: "2. ", "(b) ", "c)". */
const ITEM = /^\W?(\d{1,2}|[a-h])(?=[^\p{L}\p{N}]|$)/u;
/** Lines of a list follow each other within this many pitches, and begin within this many heights of a line of each other. */
const NEXT = [0.6, 1.45] as const;
const FLUSH = 0.7;

/** What the items right above and right below a place say: of a list, "1" above "2" above "3". */
function itemsAround(
	i: number,
	lines: readonly ReadLine[],
	{ boxes, lineHeight, pitch }: PageLayout
): readonly [above: readonly string[], below: readonly string[]] {
	const [x, y0, , y1] = boxes[i]!;
	const around: [string[], string[]] = [[], []];
	boxes.forEach((b, j) => {
		const down = (b[1] + b[3] - y0 - y1) / 2 / pitch;
		if (Math.abs(down) < NEXT[0] || Math.abs(down) > NEXT[1] || Math.abs(b[0] - x) > FLUSH * lineHeight)
			return;
		const item = ITEM.exec(lines[j]!.text.toLowerCase())?.[1];
		if (item) around[down < 0 ? 0 : 1].push(item);
	});
	return around;
}

/** Whether an item is the next one after another: 3 after 2, c after b. */
function follows(item: string, before: string): boolean {
	const [a, b] = [Number(before), Number(item)];
	return Number.isNaN(a) || Number.isNaN(b)
		? item.length === 1 && before.length === 1 && item.charCodeAt(0) === before.charCodeAt(0) + 1
		: b === a + 1;
}

/**
 * Every way to read a label at every place of a page.
 *
 * @param numbered how likely each place holds the page's number
 */
export function describeLabels(
	lines: readonly ReadLine[],
	[width, height]: readonly [number, number],
	{ trie }: LabelForms,
	numbered: ReadonlyMap<number, NumberChance> = pageNumbersByLine(lines, [width, height])
): DescribedOption[] {
	const layout = pageLayout(lines);
	const { boxes, lineHeight, bodyLeft, pitch } = layout;
	const strange = strangeness(layout);
	// "(54)" may be (5a), but hardly where "(21)", "(48)" and "(73)" stand around it.
	const high = lines.map(({ posteriors }) => meanOf(posteriors, highNumberChance));
	const highNumbers = high.reduce((a, b) => a + b, 0);
	return lines.flatMap((line, i) => {
		if (QUANTITY.test(line.text) || IDENTIFIER.test(line.text)) return [];
		// Bullets and stray strokes.
		if (line.kind !== 'framed' && line.text !== '' && !/[\p{L}\p{N}]/u.test(line.text)) return [];
		const [x0, y0, x1, y1] = boxes[i]!;
		const cuts = line.kind === 'framed' ? line.posteriors.flatMap(withoutFrame) : line.posteriors;
		const scoresOf = (caseless: boolean) =>
			meanOverCuts(cuts.filter((p) => !!p.caseless === caseless).map((p) => meaningsOf(p, trie)));
		const [own, general] = [scoresOf(true), scoresOf(false)];
		const both = own.size > 0 && cuts.some((p) => !p.caseless);
		const all = new Map([...general, ...own]);
		if (all.size === 0) return [];
		const fromBody = (x0 - bodyLeft) / lineHeight;
		const margin = fromBody < -0.8;
		const inside = fromBody > 1.2;
		const indent = Math.min(3, Math.max(0, fromBody - 0.3));
		const [itemsAbove, itemsBelow] = itemsAround(i, lines, layout);
		const middle = (y0 + y1) / 2;
		const beside = boxes.filter(
			(b, j) =>
				j !== i &&
				lines[j]!.kind === 'line' &&
				middle > b[1] &&
				middle < b[3] &&
				(b[0] > x1 - 0.5 * lineHeight || b[2] < x0 + 0.5 * lineHeight)
		);
		const linesAbove = boxes.filter(
			(b, j) =>
				j !== i &&
				lines[j]!.kind === 'line' &&
				b[3] < middle &&
				b[0] < bodyLeft + 8 * lineHeight &&
				b[2] > bodyLeft
		);
		const above = linesAbove.reduce((least, b) => Math.min(least, middle - (b[1] + b[3]) / 2), Infinity);
		const isFirst = !linesAbove.some((b) => b[1] + b[3] > 2 * HEADER * height);
		const textBeside = beside.some(
			(b) => b[0] > x1 - 0.5 * lineHeight && b[0] < x1 + 5 * lineHeight && b[2] - b[0] > 3 * lineHeight
		);
		const behindWord = boxes.some(
			(b, j) =>
				j !== i &&
				middle > b[1] &&
				middle < b[3] &&
				b[0] < x0 - lineHeight &&
				b[2] > x0 - NEXT_WORD * lineHeight &&
				WORD.test(lines[j]!.text) &&
				!NAMING.test(lines[j]!.text)
		);
		// A heading stands by itself, in the middle: it is not indented.
		const inTheMiddle =
			line.kind === 'line' &&
			beside.length === 0 &&
			Math.abs((x0 + x1) / 2 - width / 2) < IN_THE_MIDDLE * width;
		const long = (x1 - x0) / lineHeight;
		const size = Math.log(Math.max(0.2, (y1 - y0) / lineHeight));
		const [logValued, logHigh] = [meanOf(cuts, valueChance), high[i]!].map((chance) =>
			Math.log10(Math.max(LEAST_SCORE, chance) / LEAST_SCORE)
		) as [number, number];
		const value =
			DECIMAL.test(line.text) ||
			DATED.test(line.text) ||
			LONG_NUMBER.test(line.text) ||
			MEASURED.test(line.text);
		return [...all].flatMap(([key, { scored, letters, misread }]): DescribedOption[] => {
			const score = Math.max(own.get(key)?.score ?? 0, LEAST_SCORE);
			const second = Math.max(general.get(key)?.score ?? 0, LEAST_SCORE);
			const { form, question, part } = scored.value;
			const bare = form === 'bare';
			const alone =
				scored.whole > 0.5 * (scored.whole + scored.parted + scored.joined) ||
				(line.kind !== 'line' && long < 4);
			const free = !alone && (line.after ?? 0) > 0.8 * lineHeight && long < 5;
			// "a = 8.84" says what a is.
			if (bare && question === null && DEFINED.test(line.text)) return [];
			// The first digits of a measured value, a date or a year are no label: "32.0" is not "3a", but "3.6" may be "3.b".
			if (value && form !== 'named' && (part === null || bare) && !alone) return [];
			const beforeWord = !alone || (line.after ?? Infinity) < NEXT_WORD * lineHeight;
			const said = part ?? question!;
			const listed =
				Number(itemsAbove.some((item) => follows(said, item))) +
				Number(itemsBelow.some((item) => follows(item, said)));
			const heads = !bare && alone && inTheMiddle;
			const joined = scored.joined / Math.max(1e-9, scored.whole + scored.parted + scored.joined);
			const log = Math.log10(own.size > 0 || both ? score : second);
			const secondLog = both ? Math.log10(second) : 0;
			const flag = Number;
			const option = {
				line: i,
				meaning: scored.value,
				both,
				features: [
					1,
					log,
					secondLog,
					Math.min(0, log + 2),
					both ? Math.abs(log - secondLog) : 0,
					flag(form === 'named'),
					flag(form === 'signed'),
					flag(bare),
					flag(margin),
					flag(fromBody < -2.5),
					flag(inside && !heads),
					flag(bare && margin),
					flag(bare && inside),
					flag(form === 'signed' && inside),
					flag(line.kind === 'framed'),
					flag(alone),
					flag(free),
					flag(bare && !alone),
					flag(bare && free),
					joined,
					bare ? joined : 0,
					flag(above > 1.5 * pitch),
					flag(textBeside),
					flag(beside.length >= 2),
					flag(y0 < HEADER * height),
					flag(y0 > 0.94 * height),
					flag(question === null),
					flag(question === null && bare),
					flag(question !== null && part !== null),
					flag(value),
					flag(EQUATION.test(line.text)),
					flag(form !== 'named' && alone && WORD.test(line.text)),
					flag(form !== 'named' && !alone && WORD.test(line.text)),
					question !== null && part !== null ? log : 0,
					question === null ? log : 0,
					Math.min(0, size),
					Math.max(0, size),
					flag(form === 'named' && WORD.test(line.text) && !NAMING.test(line.text)),
					flag(form === 'named' && /^\W?\d/.test(line.text)),
					heads ? 0 : indent,
					flag(fromBody > 6 && !heads),
					listed * Math.min(1, indent),
					form === 'named' ? joined : 0,
					logValued,
					line.kind === 'framed' ? Math.min(MOST_BEHIND, lettersBehind(scored, letters)) : 0,
					flag(misread !== undefined),
					Math.min(MOST_EVIDENCE, misread ?? 0),
					flag(alone && line.kind === 'line' && long >= GOES_ON),
					flag(isFirst && y0 >= HEADER * height),
					flag(y0 >= HEADER * height && y0 < NEAR_TOP * height),
					bare || form === 'signed' ? (numbered.get(i)?.bare ?? 0) : 0,
					flag(form === 'named' && alone),
					flag(form === 'signed' && alone),
					flag(question === null && part === 'a' && beforeWord && ARTICLE.test(line.text)),
					flag(behindWord),
					flag(question === null && /^[([]/.test(scored.text)),
					...strange,
					form === 'named' ? 0 : logHigh * Math.log1p(highNumbers - high[i]!)
				]
			};
			return [option];
		});
	});
}

function meanOf(cuts: readonly LinePosterior[], chance: (cut: LinePosterior) => number): number {
	return cuts.reduce((sum, cut) => sum + chance(cut), 0) / Math.max(1, cuts.length);
}

/** The same places are described once before and once after second opinions: their strings are scored once. */
const known = new WeakMap<
	LinePosterior,
	{ readonly trie: Trie<LabelMeaning>; readonly best: Map<string, Best> }
>();

function meaningsOf(posterior: LinePosterior, trie: Trie<LabelMeaning>): Map<string, Best> {
	const before = known.get(posterior);
	if (before?.trie === trie) return before.best;
	const letters = bestCharacters(posterior);
	const best = bestByMeaning(scoreStrings(posterior, trie), letters);
	const behind = behindNamingWord(posterior, letters);
	if (behind) {
		const named = scoreStrings(behind.line, trie)
			.filter(({ value }) => value.question !== null && value.form !== 'named')
			.map((scored): Scored<LabelMeaning> => ({ ...scored, value: { ...scored.value, form: 'named' } }));
		for (const [key, one] of bestByMeaning(named, bestCharacters(behind.line))) {
			if (one.score > (best.get(key)?.score ?? 0)) best.set(key, { ...one, misread: behind.evidence / 10 });
		}
	}
	known.set(posterior, { trie, best });
	return best;
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
	/** How surely it is read, and that weighed by how usual it is. */
	readonly read: number;
	readonly score: number;
	/** What is read of the line by itself. */
	readonly letters: readonly BestCharacter[];
	/** What speaks for the word before it, where that was misread, in tens. */
	readonly misread?: number;
}

/** Letters and digits that are read behind a label. */
function lettersBehind({ end }: Scored<LabelMeaning>, letters: readonly BestCharacter[]): number {
	return letters.filter(({ character, step }) => step >= end && /[a-z\d]/i.test(character)).length;
}

/** Whether one says what another says, which was read hardly less surely, without its sign. */
function isPart(one: Best, other: Best): boolean {
	return (
		other.scored.text !== one.scored.text &&
		other.scored.text.startsWith(one.scored.text) &&
		other.read >= WITH_SIGN * one.read
	);
}

/** Scores of several cuts of one place, averaged; of each meaning, the form it was best read in is kept. */
function meanOverCuts(cuts: readonly Map<string, Best>[]): Map<string, Best> {
	if (cuts.length === 1) return cuts[0]!;
	const sums = new Map<string, Best & { readonly top: Best }>();
	for (const [key, one] of cuts.flatMap((c) => [...c])) {
		const { top, score } = sums.get(key) ?? { top: one, score: 0 };
		// A dash may be lost in a cut without what was taken for a rule.
		const better = one.score > top.score ? !isPart(one, top) : isPart(top, one);
		const best = better ? one : top;
		sums.set(key, {
			...best,
			score: score + one.score / cuts.length,
			top: { ...best, score: Math.max(one.score, top.score) }
		});
	}
	return sums;
}

/** A sign is part of a label where it is read at least so much as surely as the label without it. */
const WITH_SIGN = 0.5;

/** A sign right before a digit is the point of a value, a date or a time. */
const POINT = /[.:]$/;

/** The best way to read each meaning off a line. */
function bestByMeaning(
	all: readonly Scored<LabelMeaning>[],
	letters: readonly BestCharacter[]
): Map<string, Best> {
	const best = new Map<string, Best>();
	for (const one of withoutSpaces(all, letters)) {
		const { scored, read, score } = one;
		if (score < LEAST_SCORE) continue;
		const { question, part } = scored.value;
		const key = `${question ?? ''}/${part ?? ''}`;
		const known = best.get(key);
		if (!known || known.score < score) best.set(key, one);
		else if (scored.text.startsWith(known.scored.text) && read >= WITH_SIGN * known.read) {
			// What is "3c)" is "3c", and a sign behind it, as well.
			best.set(key, { ...one, score: known.score });
		}
	}
	return best;
}

/** What was read, where "3-" and "3 -" are one: which of them it is often cannot be told, and means nothing. */
function withoutSpaces(all: readonly Scored<LabelMeaning>[], letters: readonly BestCharacter[]): Best[] {
	const spelled = new Map<string, Best>();
	for (const scored of all) {
		const { text, value, weight } = scored;
		const key = `${value.question ?? ''}/${value.part ?? ''}/${text.replaceAll(' ', '')}`;
		const known = spelled.get(key);
		const read = readAs(scored);
		const score = Math.sqrt(weight) * read;
		const surer = !known || score > Math.sqrt(known.scored.weight) * readAs(known.scored);
		spelled.set(key, {
			scored: surer ? scored : known.scored,
			read: read + (known?.read ?? 0),
			score: score + (known?.score ?? 0),
			letters
		});
	}
	return [...spelled.values()];
}

/** How surely a line begins with a label, and not with what only looks like its beginning. */
function readAs({ text, value, whole, parted, joined, joinedDigit }: Scored<LabelMeaning>): number {
	const last = text.at(-1)!;
	// "Question 3The" and "3)The" are labels that ran into the line, "3The" may be; "3a" + "nd" is a word, and "1" + "2"
	// another number.
	const ranInto = joined - joinedDigit;
	if (/[a-z]/i.test(last)) return whole + parted;
	if (/\d/.test(last)) return whole + parted + (value.form === 'named' ? ranInto : 0.15 * ranInto);
	return whole + parted + (POINT.test(last) ? ranInto : joined);
}
