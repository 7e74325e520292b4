/**
 * What the recogniser says of one line: for each step from left to right, how likely each character is there.
 * Class 0 is "nothing new", class `1 + i` the character of code 32 + i (printable ASCII). Characters that look like one
 * of these are counted as it; all others are left out, so that a step may sum to less than one.
 */
export interface LinePosterior {
	readonly steps: number;
	/** `steps x CLASSES`, row-major, 0 to 1. */
	readonly data: Float32Array;
	/** Whether capitals are counted as small letters. */
	readonly caseless?: boolean;
}

export const FIRST_CODE = 32;
export const CLASSES = 1 + 127 - FIRST_CODE;
export const NOTHING = 0;
export const SPACE = 1;

/** Class of a printable ASCII character. */
export function classOf(character: string): number {
	return 1 + character.charCodeAt(0) - FIRST_CODE;
}

/** Whether a class is a digit. */
export function isDigitClass(k: number): boolean {
	return FIRST_CODE - 1 + k >= 48 && FIRST_CODE - 1 + k <= 57;
}

/** Whether a class is a letter or a digit. */
export function isWordClass(k: number): boolean {
	const code = FIRST_CODE - 1 + k;
	return isDigitClass(k) || (code >= 65 && code <= 90) || (code >= 97 && code <= 122);
}

/** Signs that a reader trained on several scripts gives for plain ones. */
const LOOKS_LIKE: Readonly<Record<string, string>> = {
	'（': '(',
	'）': ')',
	'：': ':',
	'．': '.',
	'。': '.',
	'，': ',',
	'、': ',',
	'；': ';',
	'／': '/',
	'－': '-',
	'—': '-',
	'–': '-',
	一: '-',
	'×': 'x',
	'①': '1',
	'②': '2',
	'③': '3',
	'④': '4',
	'⑤': '5',
	'⑥': '6',
	'⑦': '7',
	'⑧': '8',
	'⑨': '9',
	'？': '?',
	〇: 'O',
	'。。': '.',
	'·': '.',
	'•': '.',
	丶: '.',
	'＃': '#'
};

/** The class that a sign is counted as, or -1. */
export function classLike(sign: string): number {
	const plain = LOOKS_LIKE[sign] ?? sign;
	const code = plain.charCodeAt(0);
	return plain.length === 1 && code >= FIRST_CODE && code < 127 ? classOf(plain) : -1;
}

/** Part of a line, from one step up to another. */
export function part({ data, caseless }: LinePosterior, from: number, to: number): LinePosterior {
	return { steps: to - from, data: data.subarray(from * CLASSES, to * CLASSES), caseless };
}

/** Steps at which a word may begin, and whether it is the first. */
export function wordStarts({ steps, data }: LinePosterior): [number, boolean][] {
	const starts: [number, boolean][] = [[0, true]];
	for (let t = 0; t + 1 < steps; t++) {
		if (data[t * CLASSES + SPACE]! > 0.25) starts.push([t + 1, false]);
	}
	return starts;
}

/** A character of a line by best path (Graves et al. 2006). */
export interface BestCharacter {
	readonly character: string;
	/** At which it begins. */
	readonly step: number;
	/** How likely it is there. */
	readonly sure: number;
}

/** The best class of each step, repeats and "nothing" dropped. */
export function bestCharacters({ steps, data }: LinePosterior): BestCharacter[] {
	const found: BestCharacter[] = [];
	let before: number = NOTHING;
	for (let step = 0; step < steps; step++) {
		let best: number = NOTHING;
		for (let k = 0; k < CLASSES; k++) if (data[step * CLASSES + k]! > data[step * CLASSES + best]!) best = k;
		if (best !== before && best !== NOTHING) {
			const sure = data[step * CLASSES + best]!;
			found.push({ character: String.fromCharCode(FIRST_CODE - 1 + best), step, sure });
		}
		before = best;
	}
	return found;
}

/** Logarithm of the likelihood of the best path up to each step. */
export function bestPath({ steps, data }: LinePosterior): Float64Array {
	const sums = new Float64Array(steps + 1);
	for (let t = 0; t < steps; t++) {
		let most = 1e-6;
		for (let k = 0; k < CLASSES; k++) most = Math.max(most, data[t * CLASSES + k]!);
		sums[t + 1] = sums[t]! + Math.log(most);
	}
	return sums;
}
