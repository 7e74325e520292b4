import { CONFUSIONS } from './confusions';
import {
	CLASSES,
	classOf,
	isDigitClass,
	isWordClass,
	NOTHING,
	SPACE,
	type LinePosterior
} from './linePosterior';
import type { Trie } from './trie';

/** A string of a trie as found at the start of a line. */
export interface Scored<T> {
	readonly value: T;
	readonly text: string;
	/** How usual the form is, as the trie says. */
	readonly weight: number;
	/** Probability that the line is this string and nothing else. */
	readonly whole: number;
	/** Probability that a space or a sign follows it. */
	readonly parted: number;
	/** Probability that a letter or digit follows it at once … */
	readonly joined: number;
	/** … and that it is a digit. */
	readonly joinedDigit: number;
	/** The step behind the string, where it ends most likely. */
	readonly end: number;
}

/** Beginnings less likely than this are given up, unless less is asked for. */
const LEAST = 1e-6;
/** Characters that the general reader takes for each other, and how much of one counts for the other. */
const CONFUSED: readonly (readonly [string, number])[] = [
	['1Il|', 0.3],
	['1Il|i7/', 0.15],
	['0OoQD', 0.15],
	['QWUG', 0.15],
	['5Ss', 0.15],
	['2Zz', 0.15],
	['6bG', 0.15],
	['9qg', 0.15],
	['8B', 0.15],
	['7F', 0.15],
	['aou', 0.15],
	['4y', 0.15],
	['({[C', 0.15],
	[')}]J', 0.15]
];
const OTHER_CASE = 0.15;

type Mistaken = readonly (readonly [k: number, weight: number])[];

/** For each class, those it may be mistaken for by the general reader, with how much they count … */
const MISTAKEN = Array.from({ length: CLASSES }, (_, k): Mistaken => {
	if (k === NOTHING || k === SPACE) return [];
	const character = String.fromCharCode(31 + k);
	const others = new Map<string, number>();
	const add = (other: string, weight: number) => {
		if (other !== character) others.set(other, Math.max(weight, others.get(other) ?? 0));
	};
	for (const [group, weight] of CONFUSED) {
		if (group.includes(character)) for (const other of group) add(other, weight);
	}
	const swapped = character === character.toLowerCase() ? character.toUpperCase() : character.toLowerCase();
	if (swapped !== character) add(swapped, OTHER_CASE);
	return [...others].map(([other, weight]) => [classOf(other), weight] as const);
});
/** … and by our own. */
const MISTAKEN_CASELESS = Array.from({ length: CLASSES }, (_, k): Mistaken => {
	if (k === NOTHING || k === SPACE) return [];
	const others = CONFUSIONS[String.fromCharCode(31 + k)] ?? [];
	return others.map(([other, weight]) => [classOf(other), weight]);
});

interface Forward {
	/** Probability of having written exactly the string after each step, the last step being its last character … */
	readonly onCharacter: Float64Array;
	/** … or "nothing". */
	readonly onNothing: Float64Array;
}

/**
 * How likely a line begins with each string of a trie, under the recogniser's own output: CTC prefix probabilities
 * (Graves et al. 2006), shared along common beginnings.
 *
 * @param most steps looked at; a label is over soon
 * @param least beginnings less likely than this are given up
 */
export function scoreStrings<T>(line: LinePosterior, trie: Trie<T>, most = 64, least = LEAST): Scored<T>[] {
	const steps = Math.min(line.steps, most);
	const complete = line.steps <= most;
	const found: Scored<T>[] = [];
	const { data } = line;
	const mistaken = line.caseless ? MISTAKEN_CASELESS : MISTAKEN;
	const emission = (k: number): Float64Array => {
		const p = new Float64Array(steps);
		for (let t = 0, i = 0; t < steps; t++, i += CLASSES) {
			let sum = data[i + k]!;
			for (const [other, weight] of mistaken[k]!) sum += weight * data[i + other]!;
			p[t] = sum;
		}
		return p;
	};
	const emissions = new Map<number, { readonly p: Float64Array; readonly sum: number }>();
	const emit = (k: number) => {
		let one = emissions.get(k);
		if (!one) {
			const p = emission(k);
			emissions.set(k, (one = { p, sum: p.reduce((a, b) => a + b, 0) }));
		}
		return one;
	};
	const nothing = Float64Array.from({ length: steps }, (_, t) => data[t * CLASSES + NOTHING]!);
	// Letters and digits, and all else, at each step.
	const [words, signs, digits] = [0, 1, 2].map(() => new Float64Array(steps)) as [
		Float64Array,
		Float64Array,
		Float64Array
	];
	for (let t = 0; t < steps; t++) {
		for (let k = SPACE; k < CLASSES; k++) {
			(WORD_CLASS[k] ? words : signs)[t]! += data[t * CLASSES + k]!;
			if (isDigitClass(k)) digits[t]! += data[t * CLASSES + k]!;
		}
	}
	// One for each depth of the trie: what a string's beginning gave is asked for until the next one beside it.
	const forwards: Forward[] = [];
	const forwardAt = (depth: number) =>
		(forwards[depth] ??= { onCharacter: new Float64Array(steps), onNothing: new Float64Array(steps) });
	const root = forwardAt(0);
	let all = 1;
	for (let t = 0; t < steps; t++) root.onNothing[t] = all *= nothing[t]!;
	walk(trie, '', -1, 0, 1);
	return found;

	function walk(node: Trie<T>, text: string, last: number, depth: number, likely: number): void {
		const before = forwards[depth]!;
		for (const [character, child] of node.children) {
			const k = classOf(line.caseless ? character.toLowerCase() : character);
			const { p, sum } = emit(k);
			// It cannot be likelier than what it begins with, times all chances to go on.
			if (likely * sum < least) continue;
			const { onCharacter, onNothing } = forwardAt(depth + 1);
			let begun = 0;
			let end = 0;
			let most = 0;
			let held = 0;
			let free = 0;
			for (let t = 0; t < steps; t++) {
				const fresh =
					t === 0
						? depth === 0
							? 1
							: 0
						: before.onNothing[t - 1]! + (k === last ? 0 : before.onCharacter[t - 1]!);
				const enter = fresh * p[t]!;
				begun += enter;
				free = t > 0 ? (free + held) * nothing[t]! : 0;
				held = enter + held * p[t]!;
				onCharacter[t] = held;
				onNothing[t] = free;
				if (enter > most) {
					most = enter;
					end = t + 1;
				}
			}
			if (begun < least) continue;
			const here = text + character;
			if (child.meanings.length > 0) report(child, here, k, forwards[depth + 1]!, begun, end);
			walk(child, here, k, depth + 1, Math.min(1, begun));
		}
	}

	function report(
		node: Trie<T>,
		text: string,
		last: number,
		forward: Forward,
		begun: number,
		end: number
	): void {
		const { onCharacter, onNothing } = forward;
		const whole = complete ? onCharacter[steps - 1]! + onNothing[steps - 1]! : 0;
		let parted = 0;
		let joined = 0;
		let joinedDigit = 0;
		for (let t = 1; t < steps; t++) {
			const free = onNothing[t - 1]!;
			const held = onCharacter[t - 1]!;
			if (free + held < Math.min(1e-9, least)) continue;
			// What follows at once is not the last character again: that would be the same one, going on.
			const again = held * data[t * CLASSES + last]!;
			joined += (free + held) * words[t]! - (isWordClass(last) ? again : 0);
			joinedDigit += (free + held) * digits[t]! - (isDigitClass(last) ? again : 0);
			parted += (free + held) * signs[t]! - (isWordClass(last) ? 0 : again);
		}
		for (const { value, weight } of node.meanings) {
			found.push({ value, text, weight, whole: Math.min(whole, begun), parted, joined, joinedDigit, end });
		}
	}
}

const WORD_CLASS = Array.from({ length: CLASSES }, (_, k) => isWordClass(k));
