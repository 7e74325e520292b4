import type { Point } from './geometry';

/**
 * How the lines of a page that is not flat run over its flattened outline, upright. Both ways the outline reaches from -1
 * to 1; `s` counts along the lines, to the right, and `t` across them, down. What is at `(s, t)` on the level page lies on
 * the outline at `(s, t + A(s) + B(s) t)`: what runs across the lines stays straight, and each line is a blend of the first
 * and the last, which is what is seen of a sheet that is bent one way only, as at a book's fold or when it curls.
 */
export interface Bend {
	/** Of A: what each Legendre polynomial from the first degree on counts for. */
	readonly shift: readonly number[];
	/** Of B. */
	readonly spread: readonly number[];
	/** The level page reaches this far along lines and across them, so that nothing of it is lost beyond the outline. */
	readonly reach: readonly [along: number, across: number];
}

/** A and B alone. */
export type BendModel = Pick<Bend, 'shift' | 'spread'>;

/** Degrees of the polynomials: from one that leans to one that turns three times. */
export const DEGREES = 4;

/** Legendre polynomials of the degrees 1 to 4 at s. */
export function legendre(s: number): [number, number, number, number] {
	const q = s * s;
	return [s, (3 * q - 1) / 2, (s * (5 * q - 3)) / 2, ((35 * q - 30) * q + 3) / 8];
}

/** Their slopes. */
export function legendreSlopes(s: number): [number, number, number, number] {
	const q = s * s;
	return [1, 3 * s, (15 * q - 3) / 2, (s * (35 * q - 15)) / 2];
}

/** A and B at s. */
export function bentAt({ shift, spread }: BendModel, s: number): [number, number] {
	const p = legendre(s);
	let [a, b] = [0, 0];
	for (let k = 0; k < DEGREES; k++) {
		a += shift[k]! * p[k]!;
		b += spread[k]! * p[k]!;
	}
	return [a, b];
}

/** Where a point of the level page lies on the flattened outline; both in fractions of width and height. */
export function ontoOutline(bend: Bend, [x, y]: Point): Point {
	const [s, t] = [bend.reach[0] * (2 * x - 1), bend.reach[1] * (2 * y - 1)];
	const [a, b] = bentAt(bend, s);
	return [(s + 1) / 2, (t + a + b * t + 1) / 2];
}

/** Where a point of the flattened outline lies on the level page; the way back of `ontoOutline`. */
export function offOutline(bend: Bend, [x, y]: Point): Point {
	const [s, bent] = [2 * x - 1, 2 * y - 1];
	const [a, b] = bentAt(bend, s);
	return [(s / bend.reach[0] + 1) / 2, ((bent - a) / (1 + b) / bend.reach[1] + 1) / 2];
}

/**
 * How far across its lines a level sheet reaches whose corners are the outline's: its upper and lower side are lines, too,
 * and may bulge beyond the outline's straight ones.
 */
export function reachOfSheet(bend: BendModel): number {
	return Math.max(
		...[-1, 1].flatMap((s) => {
			const [a, b] = bentAt(bend, s);
			return [-1, 1].map((t) => Math.abs((t - a) / (1 + b)));
		})
	);
}

/** How far a bend moves what it moves most, as a fraction of the page's height. */
export function mostMoved(bend: BendModel): number {
	return farthest(bend, () => 0);
}

/** The same from the straight line between the ends of each line: nothing where lines only lean. */
export function sagOf(bend: BendModel): number {
	return farthest(bend, (s, left, right) => left + ((right - left) * (s + 1)) / 2);
}

function farthest(bend: BendModel, from: (s: number, left: number, right: number) => number): number {
	let most = 0;
	for (const t of [-1, 0, 1]) {
		const at = (s: number) => {
			const [a, b] = bentAt(bend, s);
			return a + b * t;
		};
		const [left, right] = [at(-1), at(1)];
		for (let i = 0; i <= 16; i++) {
			const s = i / 8 - 1;
			most = Math.max(most, Math.abs(at(s) - from(s, left, right)));
		}
	}
	return most / 2;
}
