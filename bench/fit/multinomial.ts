/** Things to choose from, each described by numbers, and which is right; null where none is. */
export interface Choice {
	readonly options: readonly (readonly number[])[];
	readonly right: number | null;
}

export interface Limits {
	/** No weight grows beyond it, whichever its sign. */
	readonly most?: number;
	/** Of learning; smaller ones for numbers that are large. */
	readonly rate?: number;
	/** Keeps weights from growing where the data leaves them free. */
	readonly ridge?: number;
	/** What weights begin with, in place of 0 … */
	readonly from?: readonly number[];
	/** … and those that are fitted, by index; the others stay as they begin. */
	readonly free?: readonly number[];
}
const RIDGE = 1.5;
const STEPS = 1500;
const RATE = 1;

/**
 * Weights by which the odds of each option against "none" are e to the weighted sum of its numbers: multinomial logistic
 * regression, by gradient ascent with momentum. The first number is the constant 1 and is not held back.
 */
export function fitChoices(
	choices: readonly Choice[],
	{ most = Infinity, rate = RATE, ridge = RIDGE, from, free }: Limits = {}
): number[] {
	const count = choices.find((c) => c.options.length > 0)!.options[0]!.length;
	const rows = choices.map(({ options, right }) => ({
		options: options.map((o) => Float64Array.from(o)),
		right
	}));
	const weights = Float64Array.from(from ?? new Array<number>(count).fill(0));
	const fitted = free ?? [...weights.keys()];
	const speed = new Float64Array(count);
	for (let step = 0; step < STEPS; step++) {
		const gradient = weights.map((w, k) => (k === 0 ? 0 : -ridge * w));
		for (const { options, right } of rows) {
			const odds = options.map((o) => Math.exp(Math.min(30, dot(weights, o))));
			const all = 1 + odds.reduce((a, b) => a + b, 0);
			for (const [n, features] of options.entries()) {
				const error = (n === right ? 1 : 0) - odds[n]! / all;
				if (Math.abs(error) < 1e-4) continue;
				for (let k = 0; k < count; k++) gradient[k]! += error * features[k]!;
			}
		}
		for (const k of fitted) {
			speed[k] = 0.9 * speed[k]! + (rate / rows.length) * gradient[k]!;
			weights[k] = Math.max(-most, Math.min(most, weights[k]! + speed[k]!));
		}
	}
	return [...weights];
}

const dot = (a: Float64Array, b: Float64Array) => {
	let sum = 0;
	for (let k = 0; k < a.length; k++) sum += a[k]! * b[k]!;
	return sum;
};

/** As it stands in the code. */
export const listed = (weights: readonly number[]) =>
	`[${weights.map((v) => Number(v.toFixed(2))).join(', ')}]`;
