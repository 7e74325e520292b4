import type { Plane } from '../raster/picture';
import {
	bentAt,
	DEGREES,
	legendre,
	legendreSlopes,
	mostMoved,
	sagOf,
	type Bend,
	type BendModel
} from './bend';
import { changeOf, darkerThanAround, leanOf, lineInk, type LineInk } from './lineInk';

/** Parts of the page whose lines are looked at by themselves, along lines and across them. */
const COLUMNS = 8;
const BANDS = 3;
/** Lines lean no more than this in any part. */
const ANGLES = { most: 16, coarse: 1, fine: 0.25 };
/** A lean that stands out so much counts in full. */
const CLEAR_PEAK = 3;
/** Degrees by which a part may lean otherwise than the model says before it counts for less. */
const TOLERANCE = 2;
/** Higher degrees have to be told by more: what a coefficient of each degree costs. */
const STIFFNESS = [0.002, 0.01, 0.05, 0.15];
/** The model has eight numbers: so many parts have to tell something, weighed, and in so many of the columns. */
const LEAST_EVIDENCE = 10;
const LEAST_COLUMNS = 6;
/** Degrees by which the parts have to lean, in the mean, before a person would see it. */
const LEAST_LEAN = 0.5;
/** Lines of writing and ruling stand out: the mean weight of parts that lean for a reason. */
const LEAST_WEIGHT = 0.5;
/** What the others say of a part leaves this share of its lean at most. */
const FORETOLD = 0.65;
/** Afterwards parts lean by so many degrees at most, in the mean, and by this share of what they did. */
const REST = 0.85;
const REST_SHARE = 0.5;
/** And the lines are sharper by so much at least. */
const SHARPER = 1.2;
/** Lines that sag by less, as a fraction of the page's height, only lean. */
export const LEAST_SAG = 0.003;
/**
 * The camera stands no farther from the middle of the page, in halves of its height. Where all lines bend alike, from the
 * first to the last, not the paper is bent: whoever wrote let every line droop.
 */
const MOST_ASIDE = 2.5;
/** The outermost rim shows the sheet's own edge; ink within is to stay on the page, with as much free beyond it. */
const EDGE = 0.008;
/** No page is bent so far, and no camera held so askew, that places move by more than this share of the page. */
const MOST_MOVED = 0.12;

/** A part of the page, and how its lines lean: `slope` is the change of t with s. */
interface Part {
	readonly s: number;
	readonly t: number;
	readonly slope: number;
	readonly weight: number;
	readonly column: number;
}

export interface FoundBend {
	readonly bend: Bend;
	/** Clockwise degrees by which the lines in the middle of the outline lean. */
	readonly degrees: number;
}

/**
 * How the lines of a page bend, writing and ruling together, on its evenly lit outline at about 80 dots an inch. Parts of
 * the page tell how they lean (Postl 1986); to these leans the slopes of `Bend` are fitted, weighted and robust, and the
 * whole is then moved to where the rows of ink change most sharply. It stands where every part, foretold by all others, bears
 * it out, and where all of them lie level afterwards.
 *
 * @param sideways lines run down the outline; the bend is that of the outline turned by a quarter
 * @param hidden 1 where nothing is to be looked at
 * @returns null where the lines are level, or nothing sure can be said
 */
export function findBend(grey: Plane, sideways: boolean, hidden: Uint8Array | null = null): FoundBend | null {
	const dark = darkerThanAround(grey);
	if (hidden) for (let i = 0; i < dark.length; i++) dark[i]! &= 1 - hidden[i]!;
	const ink = lineInk(dark, grey, sideways);
	if (!ink) return null;
	const page = {
		ink,
		along: (sideways ? grey.height : grey.width) / 2,
		across: (sideways ? grey.width : grey.height) / 2
	};
	const parts = partsOf(page);
	const weight = sum(parts, (p) => p.weight);
	if (weight < LEAST_EVIDENCE || new Set(parts.map((p) => p.column)).size < LEAST_COLUMNS) return null;
	const lean = meanLean(page, parts);
	if (lean < LEAST_LEAN || weight < LEAST_WEIGHT * parts.length || leftOver(parts) > FORETOLD) return null;
	const rows = new RowsOf(page);
	const found = sharpened(rows, fitted(parts));
	const model = { shift: [...found.subarray(0, DEGREES)], spread: [...found.subarray(DEGREES)] };
	if (mostMoved(model) > MOST_MOVED || rows.change(found) < SHARPER * rows.change(found.map(() => 0)))
		return null;
	const after = partsOf({ ...page, ink: levelled(page, model) });
	const rest = meanLean(page, after);
	if (rest > REST || rest > REST_SHARE * lean || sum(after, (p) => p.weight) < 0.8 * weight) return null;
	if (sagOf(model) > LEAST_SAG && middleOf(model) > MOST_ASIDE) return null;
	const degrees = (Math.atan((model.shift[0]! * page.across) / page.along) * 180) / Math.PI;
	const reach = reachOf({ ...page, ink: lineInk(dark, grey, sideways, EDGE) ?? ink }, model);
	// As far both ways, so that paper stays the paper that it is.
	return { bend: { ...model, reach: [reach, reach] }, degrees };
}

/** The ink of a page and half of its sides, along its lines and across them, in pixels. */
interface Inked {
	readonly ink: LineInk;
	readonly along: number;
	readonly across: number;
}

function sum<T>(of: readonly T[], what: (one: T) => number): number {
	return of.reduce((total, one) => total + what(one), 0);
}

/** Degrees by which parts lean, in the weighted mean. */
function meanLean({ along, across }: Inked, parts: readonly Part[]): number {
	const degrees = (p: Part) => (Math.atan((Math.abs(p.slope) * across) / along) * 180) / Math.PI;
	return (
		sum(parts, (p) => p.weight * degrees(p)) /
		Math.max(
			1e-9,
			sum(parts, (p) => p.weight)
		)
	);
}

/** The ink with a bend taken out. */
function levelled({ ink, along, across }: Inked, model: BendModel): LineInk {
	return {
		...ink,
		across: ink.across.map((v, i) => {
			const [a, b] = bentAt(model, ink.along[i]! / along);
			return (v - a * across) / (1 + b);
		})
	};
}

function partsOf({ ink, along: halfAlong, across: halfAcross }: Inked): Part[] {
	const along = Array.from({ length: COLUMNS * BANDS }, (): number[] => []);
	const across = Array.from({ length: COLUMNS * BANDS }, (): number[] => []);
	const [width, height] = [(2 * halfAlong) / COLUMNS, (2 * halfAcross) / BANDS];
	for (let i = 0; i < ink.along.length; i++) {
		const [u, v] = [ink.along[i]! + halfAlong, ink.across[i]! + halfAcross];
		const column = Math.min(COLUMNS - 1, Math.max(0, Math.floor(u / width)));
		const band = Math.min(BANDS - 1, Math.max(0, Math.floor(v / height)));
		const part = band * COLUMNS + column;
		along[part]!.push(u - (column + 0.5) * width);
		across[part]!.push(v - (band + 0.5) * height);
	}
	const reach = Math.ceil(Math.max(width, height) / 2);
	return along.flatMap((u, i): Part[] => {
		const lean = leanOf(
			{ along: Float32Array.from(u), across: Float32Array.from(across[i]!), reach },
			ANGLES
		);
		if (!lean) return [];
		const column = i % COLUMNS;
		return [
			{
				s: (2 * (column + 0.5)) / COLUMNS - 1,
				t: (2 * (Math.floor(i / COLUMNS) + 0.5)) / BANDS - 1,
				slope: (Math.tan((lean.degrees * Math.PI) / 180) * halfAlong) / halfAcross,
				weight: Math.min(1, (lean.peak - 1) / (CLEAR_PEAK - 1)),
				column
			}
		];
	});
}

/** Shift and spread that explain the leans of the parts, those far off counting less and less (Tukey's biweight). */
function fitted(parts: readonly Part[]): Float64Array {
	let found: Float64Array = new Float64Array(2 * DEGREES);
	let weights = parts.map((p) => p.weight);
	for (const scale of [8, 4, 2, 2]) {
		found = solved(parts, weights);
		weights = parts.map((part) => {
			const off = (part.slope - slopeAt(found, part)) / (scale * Math.tan((TOLERANCE * Math.PI) / 180));
			return Math.abs(off) < 1 ? part.weight * (1 - off * off) ** 2 : 0;
		});
	}
	return found;
}

function slopeAt(coefficients: Float64Array, { s, t }: Pick<Part, 's' | 't'>): number {
	const slopes = legendreSlopes(s);
	let sum = 0;
	for (let k = 0; k < DEGREES; k++) sum += slopes[k]! * (coefficients[k]! + coefficients[DEGREES + k]! * t);
	return sum;
}

/** Weighted least squares with a cost for each coefficient, by Gaussian elimination of the normal equations. */
function solved(parts: readonly Part[], weights: readonly number[]): Float64Array {
	const n = 2 * DEGREES;
	const rows = Array.from({ length: n }, (_, i) => {
		const row = new Float64Array(n + 1);
		row[i] = STIFFNESS[i % DEGREES]! * (i < DEGREES ? 1 : 3);
		return row;
	});
	parts.forEach(({ s, t, slope }, i) => {
		const slopes = legendreSlopes(s);
		const x = [...slopes, ...slopes.map((v) => v * t)];
		for (let j = 0; j < n; j++) {
			for (let k = 0; k < n; k++) rows[j]![k]! += weights[i]! * x[j]! * x[k]!;
			rows[j]![n]! += weights[i]! * x[j]! * slope;
		}
	});
	for (let c = 0; c < n; c++) {
		const row = rows[c]!;
		const lead = row[c]!;
		for (let k = c; k <= n; k++) row[k]! /= lead;
		for (let r = 0; r < n; r++) {
			const factor = rows[r]![c]!;
			if (r !== c) for (let k = c; k <= n; k++) rows[r]![k]! -= factor * row[k]!;
		}
	}
	return Float64Array.from(rows, (row) => row[n]!);
}

/** Every part is foretold by all others: the share of its lean that is left, weighted over all. */
function leftOver(parts: readonly Part[]): number {
	const off = sum(parts, (part) => {
		const model = fitted(parts.filter((other) => other !== part));
		return part.weight * Math.abs(part.slope - slopeAt(model, part));
	});
	return (
		off /
		Math.max(
			1e-9,
			sum(parts, (p) => p.weight * Math.abs(p.slope))
		)
	);
}

/** The rows of a page's ink under a bend. */
class RowsOf {
	readonly #columns: Uint16Array;
	readonly #across: Float32Array;
	readonly #basis: readonly (readonly number[])[];
	readonly #half: number;
	readonly #rows: Float64Array;

	constructor({ ink, along: halfAlong, across: halfAcross }: Inked) {
		const count = Math.ceil(2 * halfAlong);
		const every = Math.max(1, Math.floor(ink.along.length / 20_000));
		const taken = ink.along.filter((_, i) => i % every === 0);
		this.#columns = Uint16Array.from(taken, (u) =>
			Math.min(count - 1, Math.max(0, Math.floor(u + halfAlong)))
		);
		this.#across = ink.across.filter((_, i) => i % every === 0);
		this.#basis = Array.from({ length: count }, (_, i) => legendre((i + 0.5) / halfAlong - 1));
		this.#half = halfAcross;
		this.#rows = new Float64Array(Math.ceil(2 * halfAcross * 1.5) + 8);
	}

	/** How sharply the rows change when the bend is taken out. */
	change(model: Float64Array): number {
		const rows = this.#rows.fill(0);
		const middle = rows.length >> 1;
		const shift = new Float64Array(this.#basis.length);
		const scale = new Float64Array(this.#basis.length);
		this.#basis.forEach((p, i) => {
			let [a, b] = [0, 0];
			for (let k = 0; k < DEGREES; k++) {
				a += model[k]! * p[k]!;
				b += model[DEGREES + k]! * p[k]!;
			}
			shift[i] = a * this.#half;
			scale[i] = 1 / Math.max(0.2, 1 + b);
		});
		const last = rows.length - 3;
		for (let i = 0; i < this.#columns.length; i++) {
			const c = this.#columns[i]!;
			const row = ((this.#across[i]! - shift[c]!) * scale[c]! + middle + 0.5) | 0;
			rows[row < 2 ? 2 : row > last ? last : row]!++;
		}
		return changeOf(rows);
	}
}

/** From a start, coefficient by coefficient in ever smaller steps, to where the rows change most sharply. */
function sharpened(rows: RowsOf, start: Float64Array): Float64Array {
	const best = Float64Array.from(start);
	let most = rows.change(best);
	for (const step of [0.008, 0.004, 0.002, 0.001, 0.001]) {
		for (let k = 0; k < best.length; k++) {
			for (const by of [step, -step]) {
				let better = true;
				while (better) {
					best[k]! += by;
					const change = rows.change(best);
					better = change > most;
					if (better) most = change;
					else best[k]! -= by;
				}
			}
		}
	}
	return best;
}

/** How far the level page has to reach so that all ink of the outline lies on it. */
function reachOf({ ink, along, across }: Inked, model: BendModel): number {
	let most = 1;
	for (let i = 0; i < ink.along.length; i++) {
		const [a, b] = bentAt(model, ink.along[i]! / along);
		most = Math.max(most, Math.abs((ink.across[i]! / across - a) / (1 + b)));
	}
	return most > 1 ? Math.min(most + EDGE, 1 + MOST_MOVED) : 1;
}

/**
 * How far from the middle of the page lies the line that is seen straight, in halves of its height: the camera is over
 * it. Below it lines bend one way, and above it the other.
 */
function middleOf({ shift, spread }: BendModel): number {
	return Math.hypot(...shift.slice(1)) / Math.max(1e-9, Math.hypot(...spread.slice(1)));
}
