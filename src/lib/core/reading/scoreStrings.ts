import { CLASSES, classOf, NOTHING, SPACE, type LinePosterior } from './linePosterior';
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
	/** Probability that a letter or digit follows it at once. */
	readonly joined: number;
	/** The step behind the string, where it ends most likely. */
	readonly end: number;
}

/** Beginnings less likely than this are given up. */
const LEAST = 1e-7;
/** Characters that hands and readers take for each other, and how much of one counts for the other. */
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

/** For each class, those it may be mistaken for, with how much they count. */
const MISTAKEN: readonly (readonly (readonly [number, number])[])[] = Array.from(
	{ length: CLASSES },
	(_, k) => {
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
	}
);

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
 */
export function scoreStrings<T>(line: LinePosterior, trie: Trie<T>, most = 64): Scored<T>[] {
	const steps = Math.min(line.steps, most);
	const complete = line.steps <= most;
	const found: Scored<T>[] = [];
	const { data } = line;
	const emission = (k: number): Float64Array => {
		const p = new Float64Array(steps);
		for (let t = 0, i = 0; t < steps; t++, i += CLASSES) {
			let sum = data[i + k]!;
			for (const [other, weight] of MISTAKEN[k]!) sum += weight * data[i + other]!;
			p[t] = sum;
		}
		return p;
	};
	const emissions = new Map<number, Float64Array>();
	const emit = (k: number) => {
		let p = emissions.get(k);
		if (!p) emissions.set(k, (p = emission(k)));
		return p;
	};
	const nothing = Float64Array.from({ length: steps }, (_, t) => data[t * CLASSES + NOTHING]!);
	const root: Forward = { onCharacter: new Float64Array(steps), onNothing: new Float64Array(steps) };
	let all = 1;
	for (let t = 0; t < steps; t++) root.onNothing[t] = all *= nothing[t]!;
	walk(trie, '', -1, root, true);
	return found;

	function walk(node: Trie<T>, text: string, last: number, before: Forward, start: boolean): void {
		for (const [character, child] of node.children) {
			const k = classOf(character);
			const p = emit(k);
			const onCharacter = new Float64Array(steps);
			const onNothing = new Float64Array(steps);
			let begun = 0;
			let end = 0;
			let most = 0;
			for (let t = 0; t < steps; t++) {
				const fresh =
					t === 0
						? start
							? 1
							: 0
						: before.onNothing[t - 1]! + (k === last ? 0 : before.onCharacter[t - 1]!);
				const enter = fresh * p[t]!;
				begun += enter;
				onCharacter[t] = enter + (t > 0 ? onCharacter[t - 1]! * p[t]! : 0);
				onNothing[t] = t > 0 ? (onNothing[t - 1]! + onCharacter[t - 1]!) * nothing[t]! : 0;
				if (enter > most) {
					most = enter;
					end = t + 1;
				}
			}
			if (begun < LEAST) continue;
			const forward = { onCharacter, onNothing };
			const here = text + character;
			if (child.meanings.length > 0) report(child, here, k, forward, begun, end);
			walk(child, here, k, forward, false);
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
		for (let t = 1; t < steps; t++) {
			const free = onNothing[t - 1]!;
			const held = onCharacter[t - 1]!;
			if (free + held < 1e-9) continue;
			for (let k = SPACE; k < CLASSES; k++) {
				const p = (free + (k === last ? 0 : held)) * data[t * CLASSES + k]!;
				if (isWordClass(k)) joined += p;
				else parted += p;
			}
		}
		for (const { value, weight } of node.meanings) {
			found.push({ value, text, weight, whole: Math.min(whole, begun), parted, joined, end });
		}
	}
}

function isWordClass(k: number): boolean {
	const code = 31 + k;
	return (code >= 48 && code <= 57) || (code >= 65 && code <= 90) || (code >= 97 && code <= 122);
}
