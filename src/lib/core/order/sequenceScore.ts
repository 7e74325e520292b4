import { isOwn } from '../mapping/labelEvents';
import { declineKey } from '../mapping/proposeSeams';
import { answerables, type Answerable, type Question } from '../assignment/question';
import { byName } from './byName';
import { endsOf, sameSubject, subjectOfAll, type Ends, type Subject } from './continuation';
import { LABELS, labelPath, type SaidLabel } from './labelPath';
import { ORDER_WEIGHTS } from './orderWeights';
import type { PageClues } from './pageClues';
import { headerEnds } from './pageHeader';
import { settleNumbers, type SettledNumber } from './pageNumbers';

/** What of two pages, one right behind the other, tells. */
const BEHIND = [
	'the next number follows',
	'a label first behind a page that breaks off',
	'a sentence goes on',
	'a new sentence behind one that ended',
	'room was left, and no label follows',
	'both are about the same',
	'room was left before a label'
] as const;
/** What of two pages tells, one anywhere before the other. */
const BEFORE = ['a higher number comes before', 'a number is repeated'] as const;
/** What of the first page tells. */
const FIRST = [
	'a label first',
	'begins inside a sentence',
	'carries the name',
	'carries the name, and others do not',
	'the first question is on it',
	'the first question is at its top'
] as const;
/** What of the last page tells. */
const LAST = ['breaks off', 'is not full'] as const;
/** What describes a sequence of pages, each a sum over its pages; weighed by `ORDER_WEIGHTS`, in natural logarithms. */
export const SEQUENCE_FEATURES = [
	...BEHIND.map((f) => `behind: ${f}`),
	...BEFORE.map((f) => `before: ${f}`),
	...FIRST.map((f) => `first page: ${f}`),
	...LAST.map((f) => `last page: ${f}`),
	...LABELS.map((f) => `labels: ${f}`)
];

/** Weak by itself, and not fitted: what is drawn arrives shuffled. */
const WEAK = {
	name: 0.04,
	time: 0.05,
	/** Pages of one file were put together by somebody or went through a feeder one by one. */
	sameFile: 0.15
} as const;

interface Known {
	readonly clues: PageClues;
	readonly number: SettledNumber | null;
	readonly ends: Ends;
	/** Readings of each place where a label stands, likeliest first, from the top down. */
	readonly labels: readonly (readonly SaidLabel[])[];
}

/** Judges sequences of pages; higher is better. */
export interface SequenceJudge {
	readonly numbers: readonly (SettledNumber | null)[];
	readonly ends: readonly Ends[];
	readonly ranked: readonly Answerable[];
	/** Sure labels of each page, from the top down. */
	readonly labels: readonly (readonly SaidLabel[])[];
	/** Natural logarithm of how likely, up to a constant. @param sequence indices of the pages */
	score(sequence: readonly number[]): number;
	/** Numbers in the sequence of `SEQUENCE_FEATURES`. */
	describe(sequence: readonly number[]): number[];
}

/** A place is a label when its readings add up to this; each has to be this likely to count. */
const LEAST_LABEL = 0.3;
const LEAST_OPTION = 0.1;
/** A seam this near to a label, as a fraction of the page, is about it. */
const SAME_PLACE = 0.04;

export function sequenceJudge(pages: readonly PageClues[], questions: readonly Question[]): SequenceJudge {
	const ranked = answerables(questions);
	const numbers = settleNumbers(pages);
	const headers = headerEnds(pages);
	const known = pages.map((clues, i): Known => ({
		clues,
		number: numbers[i]!,
		ends: endsOf(clues, headers[i]),
		labels: labelsOf(clues, ranked)
	}));
	const packet = subjectOfAll(known.map((k) => k.ends.whole));
	const n = pages.length;
	const unnamed = pages.filter((p) => !p.named).length / Math.max(1, n);
	const flows = flowShare(known);
	const behind = (a: number, b: number) => [
		...follows(known[a]!, known[b]!, packet),
		flows * leavesRoom(known[a]!, known[b]!, ranked)
	];
	const before = (a: number, b: number) => precedes(known[a]!.number, known[b]!.number);
	const first = (i: number) => firstPage(known[i]!, unnamed, ranked);
	const last = (i: number) => lastPage(known[i]!);
	const weights = byGroup(ORDER_WEIGHTS);
	const path = labelPath(
		known.map((k) => k.labels),
		ranked,
		weights.labels
	);
	const nexts = table(n, (a, b) => dot(behind(a, b), weights.behind));
	const befores = table(n, (a, b) => dot(before(a, b), weights.before) + weakly(known[a]!, known[b]!));
	const firsts = known.map((_, i) => dot(first(i), weights.first));
	const lasts = known.map((_, i) => dot(last(i), weights.last));
	return {
		numbers,
		ends: known.map((k) => k.ends),
		ranked,
		labels: known.map((k) => k.labels.map((options) => options[0]!)),
		score(sequence) {
			if (sequence.length === 0) return 0;
			let sum = firsts[sequence[0]!]! + lasts[sequence.at(-1)!]!;
			for (let i = 0; i < sequence.length; i++) {
				if (i > 0) sum += nexts[sequence[i - 1]! * n + sequence[i]!]!;
				for (let j = i + 1; j < sequence.length; j++) sum += befores[sequence[i]! * n + sequence[j]!]!;
			}
			return sum + path.score(sequence);
		},
		describe(sequence) {
			const sums = { behind: BEHIND.map(() => 0), before: BEFORE.map(() => 0) };
			sequence.forEach((b, j) => {
				if (j > 0) addTo(sums.behind, behind(sequence[j - 1]!, b));
				for (const a of sequence.slice(0, j)) addTo(sums.before, before(a, b));
			});
			const ends = [...first(sequence[0]!), ...last(sequence.at(-1)!)];
			return [...sums.behind, ...sums.before, ...ends, ...path.describe(sequence)];
		}
	};
}

function byGroup(weights: readonly number[]) {
	let at = 0;
	const take = (names: readonly string[]) => weights.slice(at, (at += names.length));
	return {
		behind: take(BEHIND),
		before: take(BEFORE),
		first: take(FIRST),
		last: take(LAST),
		labels: take(LABELS)
	};
}

function dot(a: readonly number[], b: readonly number[]): number {
	let sum = 0;
	for (let k = 0; k < a.length; k++) sum += a[k]! * b[k]!;
	return sum;
}

function addTo(sums: number[], values: readonly number[]): void {
	values.forEach((value, k) => (sums[k]! += value));
}

/** Seams of a person stand for the labels that were read near them, and are certain. */
function labelsOf({ page, reading, seams = [], declined = [] }: PageClues, ranked: readonly Answerable[]) {
	const isDeclined = ({ question, part }: SaidLabel) =>
		ranked.some(
			(r) => r.question === question && r.part === part && declined.includes(declineKey(page, r.id))
		);
	const read = (reading?.labels ?? []).flatMap(({ y, options }) => {
		if (seams.some((s) => Math.abs(s.y - y) < SAME_PLACE)) return [];
		const own = options.filter((o) => isOwn(o, ranked) && o.probability >= LEAST_OPTION && !isDeclined(o));
		return own.reduce((sum, o) => sum + o.probability, 0) >= LEAST_LABEL ? [{ y, options: own }] : [];
	});
	const said = seams.flatMap(({ y, questions }) =>
		ranked
			.filter((r) => questions.includes(r.id))
			.map(({ question, part }) => ({ y, options: [{ question, part, probability: 1 }] }))
	);
	return [...read, ...said].sort((a, b) => a.y - b.y).map((l) => l.options);
}

function table(n: number, cost: (a: number, b: number) => number): Float64Array {
	return Float64Array.from({ length: n * n }, (_, k) => {
		const a = Math.floor(k / n);
		const b = k % n;
		return a === b ? 0 : cost(a, b);
	});
}

/** `FIRST` of a page. @param unnamed the share of pages without a name */
function firstPage({ clues, ends, labels }: Known, unnamed: number, ranked: readonly Answerable[]): number[] {
	if (!clues.reading) return FIRST.map(() => 0);
	const named = Number(clues.named);
	const begins = (labels[0] ?? []).filter(
		({ question, part }) =>
			question !== null && question === ranked[0]?.question && (part === null || part === ranked[0].part)
	);
	const first = begins.reduce((sum, o) => sum + o.probability, 0);
	return [
		Number(ends.labelFirst),
		ends.labelFirst ? 0 : ends.goesOn,
		named,
		// Who writes the name on one page only writes it on the first.
		named * unnamed,
		first,
		ends.labelFirst ? first : 0
	];
}

/** `LAST` of a page. */
function lastPage({ clues, ends }: Known): number[] {
	return clues.reading ? [ends.breaksOff, Number(!ends.full)] : LAST.map(() => 0);
}

/** `BEHIND` of page b right behind page a, but for what room says of a label. */
function follows(a: Known, b: Known, packet: Subject): number[] {
	const number = a.number && b.number ? chance(a.number, b.number, (x, y) => y === x + 1) : 0;
	if (!a.clues.reading || !b.clues.reading) return [number, 0, 0, 0, 0, 0];
	const { breaksOff, full, tail } = a.ends;
	const { goesOn, labelFirst, head } = b.ends;
	if (labelFirst) return [number, breaksOff, 0, 0, 0, 0];
	return [
		number,
		0,
		breaksOff * goesOn,
		(1 - breaksOff) * (1 - goesOn),
		Number(!full),
		sameSubject(tail, head, packet)
	];
}

/** The share of labels that stand further down a page, where others would begin a new one. */
function flowShare(known: readonly Known[]): number {
	const labels = known.reduce((sum, k) => sum + k.labels.length, 0);
	const first = known.filter((k) => k.ends.labelFirst).length;
	return labels === 0 ? 0 : Math.max(0, labels - first) / labels;
}

/** Whether page a has room left for what page b begins with, and no rule asks for a page of its own. */
function leavesRoom(a: Known, b: Known, ranked: readonly Answerable[]): number {
	if (!a.clues.reading || !b.ends.labelFirst || a.ends.full) return 0;
	const label = b.labels[0]?.[0];
	const meant = ranked.find(
		(r) => r.question === label?.question && (label.part === null || r.part === label.part)
	);
	const isFirstPart = meant ? ranked.find((r) => r.question === meant.question) === meant : false;
	return meant?.newPage && isFirstPart ? 0 : 1;
}

/** `BEFORE` of two pages' numbers. */
function precedes(a: SettledNumber | null, b: SettledNumber | null): number[] {
	if (!a || !b) return BEFORE.map(() => 0);
	return [chance(a, b, (x, y) => x > y), chance(a, b, (x, y) => x === y)];
}

/** What speaks weakly for page a somewhere before page b. */
function weakly({ clues: a }: Known, { clues: b }: Known): number {
	let sum = WEAK.name * Math.sign(byName(b.fileName, a.fileName));
	if (a.place.source === b.place.source) sum += WEAK.sameFile * Math.sign(b.place.page - a.place.page);
	if (a.takenAt !== null && b.takenAt !== null) sum += WEAK.time * Math.sign(b.takenAt - a.takenAt);
	return sum;
}

/** How likely two pages' numbers are related in a way. */
function chance(a: SettledNumber, b: SettledNumber, related: (x: number, y: number) => boolean): number {
	let sum = 0;
	for (const [x, p] of a.shares) {
		for (const [y, q] of b.shares) if (related(x, y)) sum += p * q;
	}
	return sum;
}
