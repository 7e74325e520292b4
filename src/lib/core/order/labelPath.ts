import type { Answerable } from '../assignment/question';
import { stepOf } from '../mapping/labelEvents';
import type { LabelOption } from '../reading/labelCandidates';

/** What a label says, however it is written. */
export type SaidLabel = Omit<LabelOption, 'form'>;

/** What describes how the labels of a sequence of pages follow each other. */
export const LABELS = [
	'as they are read',
	'the next one',
	'the one before once more',
	'something is left out',
	'more than one is left out',
	'the same over again',
	'one goes back',
	'a part alone, not the next'
] as const;
const [READ, NEXT, HEADED, LEFT_OUT, MORE, SAME, BACK, ALONE] = LABELS.keys();
/** More labels than this that are left out count as so many. */
const FAR = 6;
/** Nothing that was read is held for impossible. */
const LEAST = 0.01;

/** Judges how the labels of a sequence of pages follow each other. */
export interface LabelPath {
	/** @param sequence indices of the pages */
	score(sequence: readonly number[]): number;
	/** Of the likeliest way to take them, numbers in the sequence of `LABELS`. */
	describe(sequence: readonly number[]): number[];
}

/** What one reading of a place does where the work may be: nothing where it means nothing there. */
type Moves = readonly ({ readonly to: number; readonly features: readonly number[] } | null)[];

/** One place: each reading by where it leads from where the work may be, and that it is no label at all. */
interface PlaceMoves {
	/** The logarithm of how likely it is none, and what that counts. */
	readonly none: number;
	readonly passed: number;
	readonly readings: readonly {
		readonly to: Int16Array;
		readonly gain: Float64Array;
		readonly moves: Moves;
	}[];
}

/**
 * The likeliest way to take the labels of pages in a sequence: each is one of its readings or none at all, and what the
 * work has come to by then says what follows (Viterbi 1967).
 *
 * @param pages of each page its places, from the top down, and of each place what it may say
 * @param weights of `LABELS`
 */
export function labelPath(
	pages: readonly (readonly (readonly SaidLabel[])[])[],
	ranked: readonly Answerable[],
	weights: readonly number[]
): LabelPath {
	const states = 2 * (ranked.length + 1);
	const known = new Map<string, Moves>();
	const movesOf = (label: SaidLabel) => {
		const key = `${label.question ?? ''}/${label.part ?? ''}`;
		let moves = known.get(key);
		if (!moves) known.set(key, (moves = Array.from({ length: states }, (_, s) => moveOf(label, s, ranked))));
		return moves;
	};
	const weigh = (features: readonly number[]) => features.reduce((sum, f, k) => sum + f * weights[k]!, 0);
	const places = pages.map((page) =>
		page.map((options): PlaceMoves => {
			const none = Math.log(
				Math.max(
					LEAST,
					options.reduce((rest, o) => rest - o.probability, 1)
				)
			);
			return {
				none,
				passed: weights[READ!]! * none,
				readings: options.map((option) => {
					const read = weights[READ!]! * Math.log(option.probability);
					const moves = movesOf(option);
					return {
						moves: moves.map(
							(m) => m && { ...m, features: withRead(m.features, Math.log(option.probability)) }
						),
						to: Int16Array.from(moves, (m) => m?.to ?? -1),
						gain: Float64Array.from(moves, (m) => (m ? read + weigh(m.features) : 0))
					};
				})
			};
		})
	);

	/** Used over and over: sequences are scored by the thousand. */
	const buffers = [new Float64Array(states), new Float64Array(states)] as const;

	/** @param trail where it is to be known by which way each state was come to: of each place, reading and state before */
	function walk(sequence: readonly number[], trail?: { reading: Int16Array; from: Int16Array }[]) {
		let [now, next] = buffers;
		now.fill(-Infinity);
		now[0] = 0;
		/** Beyond it no state has been come to. */
		let highest = 0;
		for (let p = 0; p < sequence.length; p++) {
			const onPage = places[sequence[p]!]!;
			for (let k = 0; k < onPage.length; k++) {
				const { passed, readings } = onPage[k]!;
				for (let s = 0; s < states; s++) next[s] = now[s]! + passed;
				const by = trail && {
					reading: new Int16Array(states).fill(-1),
					from: Int16Array.from({ length: states }, (_, s) => s)
				};
				const before = highest;
				for (let r = 0; r < readings.length; r++) {
					const { to, gain } = readings[r]!;
					for (let s = before; s >= 0; s--) {
						const t = to[s]!;
						if (t < 0 || now[s] === -Infinity) continue;
						const value = now[s]! + gain[s]!;
						if (value <= next[t]!) continue;
						next[t] = value;
						if (t > highest) highest = t;
						if (by) [by.reading[t], by.from[t]] = [r, s];
					}
				}
				if (by) trail.push(by);
				[now, next] = [next, now];
			}
		}
		let best = 0;
		for (let s = 1; s < states; s++) if (now[s]! > now[best]!) best = s;
		return { best, value: now[best]! };
	}

	return {
		score: (sequence) => walk(sequence).value,
		describe(sequence) {
			const trail: { reading: Int16Array; from: Int16Array }[] = [];
			let at = walk(sequence, trail).best;
			const sums = LABELS.map(() => 0);
			const all = sequence.flatMap((page) => places[page]!);
			for (let k = all.length - 1; k >= 0; k--) {
				const { reading, from } = trail[k]!;
				const taken = all[k]!.readings[reading[at]!];
				if (taken) taken.moves[from[at]!]!.features.forEach((f, i) => (sums[i]! += f));
				else sums[READ!]! += all[k]!.none;
				at = from[at]!;
			}
			return sums;
		}
	};
}

/** What a label does from a state: twice the rank of what was begun last, from 1 on, and 1 more behind a heading. */
function moveOf(label: SaidLabel, state: number, ranked: readonly Answerable[]) {
	const current = (state >> 1) - 1;
	const heading = (state & 1) === 1;
	const step = stepOf(label, ranked, current, heading);
	if (!step) return null;
	const features = LABELS.map(() => 0);
	const gap = step.rank - current;
	if (gap === 1) features[NEXT!] = 1;
	// The first part of a question that was just named begins nothing new.
	else if (gap === 0 && heading && !step.heading) features[HEADED!] = 1;
	else {
		if (label.question === null) features[ALONE!] = 1;
		if (gap > 1) {
			features[LEFT_OUT!] = 1;
			features[MORE!] = Math.min(gap - 2, FAR);
		} else features[gap === 0 ? SAME! : BACK!] = 1;
	}
	return { to: 2 * (step.rank + 1) + Number(step.heading), features };
}

const withRead = (features: readonly number[], read: number) =>
	features.map((f, k) => (k === READ ? read : f));
