import { transitionScore, isOwn, stepOf } from '../mapping/labelEvents';
import { declineKey } from '../mapping/proposeSeams';
import type { LabelOption } from '../reading/labelCandidates';
import { answerables, type Answerable, type Question } from '../assignment/question';
import { byName } from './byName';
import { endsOf, sameSubject, subjectOfAll, type Ends, type Subject } from './continuation';
import type { PageClues } from './pageClues';
import { settleNumbers, type SettledNumber } from './pageNumbers';

/** What a label says, however it is written. */
type SaidLabel = Omit<LabelOption, 'form'>;

/** What is weighed when pages are put in order, in natural logarithms, roughly. */
const WEIGHTS = {
	/** The next number follows. */
	numberNext: 2.5,
	/** A higher number comes before a lower one, next to it or anywhere before it. */
	numberInverted: 3,
	numberRepeated: 1,
	/** Labels follow each other as the questions do. */
	label: 2.4,
	goesOn: 1,
	/** Both pages are about the same where one would go on on the other. */
	subject: 3,
	/** Label first behind a page that breaks off, or a page without room is followed by something unrelated. */
	brokenOff: 2.2,
	/** The last page ends with its sentence. */
	brokenOffLast: 1.5,
	notFull: 1.2,
	/** A page that is not full is followed by a label that need not begin a page, though this writer's labels seldom do. */
	emptyRest: 1.5,
	/** The first page begins with a label, and not in the middle of a sentence; the name stands on it. */
	first: 1,
	onlyName: 2.5,
	/** Weak by itself: many pictures arrive shuffled. */
	name: 0.04,
	time: 0.08,
	/** Pages of one file were put together by somebody or went through a feeder one by one. */
	sameFile: 0.4
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
	/** @param sequence indices of the pages */
	score(sequence: readonly number[]): number;
}

/** A place is a label when its readings add up to this; each has to be this likely to count. */
const LEAST_LABEL = 0.4;
const LEAST_OPTION = 0.15;
/** A seam this near to a label, as a fraction of the page, is about it. */
const SAME_PLACE = 0.04;

export function sequenceJudge(pages: readonly PageClues[], questions: readonly Question[]): SequenceJudge {
	const ranked = answerables(questions);
	const numbers = settleNumbers(pages);
	const known = pages.map((clues, i): Known => ({
		clues,
		number: numbers[i]!,
		ends: endsOf(clues),
		labels: labelsOf(clues, ranked)
	}));
	const packet = subjectOfAll(known.map((k) => k.ends.whole));
	const n = pages.length;
	const unnamed = pages.filter((p) => !p.named).length / Math.max(1, n);
	const flows = flowShare(known);
	const next = table(
		n,
		(a, b) =>
			follows(known[a]!, known[b]!, packet) -
			WEIGHTS.emptyRest * flows * leavesRoom(known[a]!, known[b]!, ranked)
	);
	const before = table(n, (a, b) => precedes(known[a]!, known[b]!));
	return {
		numbers,
		ends: known.map((k) => k.ends),
		ranked,
		labels: known.map((k) => k.labels.map((options) => options[0]!)),
		score(sequence) {
			let sum = 0;
			for (let i = 0; i < sequence.length; i++) {
				if (i > 0) sum += next[sequence[i - 1]! * n + sequence[i]!]!;
				for (let j = i + 1; j < sequence.length; j++) sum += before[sequence[i]! * n + sequence[j]!]!;
			}
			if (sequence.length > 0) {
				sum += firstPage(known[sequence[0]!]!, unnamed);
				sum -= WEIGHTS.brokenOffLast * known[sequence.at(-1)!]!.ends.breaksOff;
			}
			return sum + WEIGHTS.label * labelScore(sequence, known, ranked);
		}
	};
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

/** What speaks for a page as the first one. @param unnamed the share of pages without a name */
function firstPage({ clues, ends }: Known, unnamed: number): number {
	// Who writes the name on one page only writes it on the first.
	const name = clues.named ? 0.5 + WEIGHTS.onlyName * unnamed : 0;
	if (!clues.reading) return 0;
	return WEIGHTS.first * ((ends.labelFirst ? 0.5 : -ends.goesOn) + name);
}

/** What speaks for page b right behind page a. */
function follows(a: Known, b: Known, packet: Subject): number {
	let sum = 0;
	if (a.number && b.number) {
		sum += WEIGHTS.numberNext * chance(a.number, b.number, (x, y) => y === x + 1);
	}
	if (a.clues.reading && b.clues.reading) {
		if (b.ends.labelFirst) {
			sum -= WEIGHTS.brokenOff * a.ends.breaksOff;
		} else {
			sum += WEIGHTS.goesOn * fitting(a.ends.breaksOff, b.ends.goesOn);
			if (!a.ends.full) sum -= WEIGHTS.notFull;
			sum += WEIGHTS.subject * sameSubject(a.ends.tail, b.ends.head, packet);
		}
	}
	return sum;
}

/** How well the end of one page fits the beginning of the next: a sentence that goes on, or a new one behind an old. */
function fitting(breaksOff: number, goesOn: number): number {
	return 1.5 * breaksOff * goesOn + 0.5 * (1 - breaksOff) * (1 - goesOn);
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

/** What speaks for page a somewhere before page b. */
function precedes(a: Known, b: Known): number {
	let sum = 0;
	if (a.number && b.number) {
		sum -= WEIGHTS.numberInverted * chance(a.number, b.number, (x, y) => x > y);
		sum -= WEIGHTS.numberRepeated * chance(a.number, b.number, (x, y) => x === y);
	}
	sum += WEIGHTS.name * Math.sign(byName(b.clues.fileName, a.clues.fileName));
	if (a.clues.place.source === b.clues.place.source) {
		sum += WEIGHTS.sameFile * Math.sign(b.clues.place.page - a.clues.place.page);
	}
	if (a.clues.takenAt !== null && b.clues.takenAt !== null) {
		sum += WEIGHTS.time * Math.sign(b.clues.takenAt - a.clues.takenAt);
	}
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

/** A part that neither this question nor any later one has. */
const LEADS_NOWHERE = -3;

/** How well the labels follow each other. */
function labelScore(
	sequence: readonly number[],
	known: readonly Known[],
	ranked: readonly Answerable[]
): number {
	let sum = 0;
	let current = -1;
	let heading = false;
	for (const i of sequence) {
		for (const options of known[i]!.labels) {
			const meant = options.flatMap((label) => {
				const step = stepOf(label, ranked, current, heading);
				return step ? [{ label, step }] : [];
			});
			// Of two readings nearly as likely, the one that follows is meant.
			const best = meant.find(({ step }) => step.rank === current + 1) ?? meant[0];
			if (!best) {
				sum += LEADS_NOWHERE * options[0]!.probability;
				continue;
			}
			const { label, step } = best;
			const bonus = step.rank === current + 1 ? 1 : 0;
			sum += label.probability * (transitionScore(label, current, heading, step) + bonus);
			current = step.rank;
			heading = step.heading;
		}
	}
	return sum;
}
