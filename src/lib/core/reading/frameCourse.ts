import type { Component } from '../raster/components';

/** What a step along a frame costs: where it has a gap, where it runs through other strokes, and for each pixel it turns. */
const GAP = 1;
const IN_STROKE = 0.15;
const TURN = 0.5;
/** Levels that a frame may turn from one place to the next. */
const STEEPEST = 6;
/** How far in and out a frame may lie, in half sizes of what it is expected to be: letters may stick out of it. */
const INNERMOST = 0.45;
const OUTERMOST = 1.1;
/** A side of a box is a row or column with ink along this part of it, this far in at most. */
const COVERED = 0.6;
const FARTHEST_IN = 0.45;
/** A stroke longer than this, in thicknesses of the frame's line, is not the frame's alone. */
const CROSSED = 1.7;
/** What is left of a frame where its sides meet, in thicknesses of its line: less than a letter's stroke. */
const LEFT = 2;
/** Places to both sides by which the direction of the line is told. */
const BESIDE = 3;

/**
 * The pixels of a frame that is drawn around something, without the letters that touch it or stick out of it: its
 * likeliest course around the middle (Viterbi), over as much ink as may be and turning as little as may be. Where it
 * crosses other strokes, these stay whole.
 *
 * @param group the ink of the frame and of what touches it
 * @param thickness of the frame's line, in pixels
 * @param ink whether a pixel of the page is the group's
 * @returns pixels of the page, `[x, y]`
 */
export function framePixels(
	group: Component,
	thickness: number,
	ink: (x: number, y: number) => boolean
): [x: number, y: number][] {
	const [w, h] = [group.x1 - group.x0, group.y1 - group.y0];
	const mine = new Uint8Array(w * h);
	for (let y = 0, i = 0; y < h; y++) {
		for (let x = 0; x < w; x++, i++) if (ink(group.x0 + x, group.y0 + y)) mine[i] = 1;
	}
	const along = { across: runs(mine, h, w, w, 1), down: runs(mine, w, h, 1, w) };
	const most = CROSSED * thickness;
	const cost = (i: number) => {
		if (!mine[i]) return GAP;
		return Math.min(length(along.across, i), length(along.down, i)) > most ? IN_STROKE : 0;
	};
	const [ring, box] = [
		cheapestWay(w, h, ringShape(w, h), cost),
		cheapestWay(w, h, boxShape(mine, w, h), cost)
	];
	const { course } = ring.costs < box.costs ? ring : box;
	const peeled = new Uint8Array(w * h);
	course.forEach((i, n) => {
		if (!mine[i]) return;
		const [one, other] = [
			course[(n - BESIDE + course.length) % course.length]!,
			course[(n + BESIDE) % course.length]!
		];
		const level = Math.abs((other % w) - (one % w)) >= Math.abs(Math.floor(other / w) - Math.floor(one / w));
		const { from, to } = level ? along.down : along.across;
		if (to[i]! - from[i]! > most) return;
		for (let k = from[i]!; k < to[i]!; k++) {
			peeled[level ? k * w + (i % w) : i - (i % w) + k] = 1;
		}
	});
	const near = Math.ceil(thickness);
	for (const i of course) {
		const [x, y] = [i % w, Math.floor(i / w)];
		for (let v = Math.max(0, y - near); v <= Math.min(h - 1, y + near); v++) {
			for (let u = Math.max(0, x - near); u <= Math.min(w - 1, x + near); u++) {
				const k = v * w + u;
				if (mine[k] && !peeled[k]) peelWhatIsLeft(mine, peeled, w, k, (LEFT * thickness) ** 2);
			}
		}
	}
	const pixels: [number, number][] = [];
	peeled.forEach((p, i) => {
		if (p) pixels.push([group.x0 + (i % w), group.y0 + Math.floor(i / w)]);
	});
	return pixels;
}

/** For each pixel of ink where its run begins and ends (one past), along one direction. */
interface Runs {
	readonly from: Int32Array;
	readonly to: Int32Array;
}

function runs(mine: Uint8Array, rows: number, columns: number, down: number, step: number): Runs {
	const [from, to] = [new Int32Array(mine.length), new Int32Array(mine.length)];
	for (let r = 0; r < rows; r++) {
		for (let start = 0; start < columns;) {
			let end = start;
			while (end < columns && mine[r * down + end * step]) end++;
			for (let k = start; k < end; k++) {
				from[r * down + k * step] = start;
				to[r * down + k * step] = end;
			}
			start = end + 1;
		}
	}
	return { from, to };
}

function length({ from, to }: Runs, i: number): number {
	return to[i]! - from[i]!;
}

/** What a frame is expected to be: its middle, half its size, and around the middle its places in half sizes. */
interface Shape {
	readonly middle: readonly [x: number, y: number];
	readonly half: readonly [x: number, y: number];
	/** No two in a row are farther apart than a pixel. */
	readonly places: readonly (readonly [u: number, v: number])[];
}

function ringShape(w: number, h: number): Shape {
	const count = Math.ceil(Math.PI * Math.max(w, h));
	const half = [w / 2, h / 2] as const;
	const places = Array.from({ length: count }, (_, p) => {
		const turn = (2 * Math.PI * p) / count;
		return [Math.cos(turn), Math.sin(turn)] as const;
	});
	return { middle: half, half, places };
}

/** A box whose sides are the rows and columns with the most ink. */
function boxShape(mine: Uint8Array, w: number, h: number): Shape {
	const row = (y: number) => covered(mine, y * w, 1, w);
	const column = (x: number) => covered(mine, x, w, h);
	const [top, left] = [farthestIn(h, row), farthestIn(w, column)];
	const bottom = h - farthestIn(h, (y) => row(h - 1 - y));
	const right = w - farthestIn(w, (x) => column(w - 1 - x));
	const side = (length: number, at: (i: number) => [number, number]) =>
		Array.from({ length }, (_, p) => at((2 * p + 1) / length - 1));
	return {
		middle: [(left + right) / 2, (top + bottom) / 2],
		half: [(right - left) / 2, (bottom - top) / 2],
		places: [
			...side(right - left, (i) => [i, -1]),
			...side(bottom - top, (i) => [1, i]),
			...side(right - left, (i) => [-i, 1]),
			...side(bottom - top, (i) => [-1, -i])
		]
	};
}

/** How much of a row or column is ink. */
function covered(mine: Uint8Array, from: number, step: number, count: number): number {
	let sum = 0;
	for (let k = 0; k < count; k++) sum += mine[from + k * step]!;
	return sum / count;
}

/** How far in the row or column with the most ink lies; 0 where none has enough. */
function farthestIn(size: number, coveredAt: (place: number) => number): number {
	let [best, most] = [0, COVERED];
	for (let i = 0; i < FARTHEST_IN * size; i++) {
		const here = coveredAt(i);
		if (here > most) [best, most] = [i, here];
	}
	return best;
}

/**
 * The cheapest way once around the middle of a `w x h` field, as indices into it, and what it costs.
 *
 * @param shape that the way would have if it did not turn in or out
 * @param cost of running over a place of the field
 */
function cheapestWay(
	w: number,
	h: number,
	shape: Shape,
	cost: (index: number) => number
): { course: number[]; costs: number } {
	const {
		middle: [cx, cy],
		half: [a, b]
	} = shape;
	const places = shape.places.length;
	const step = 1 / Math.max(a, b);
	const levels = Math.ceil((OUTERMOST - INNERMOST) / step) + 1;
	// Some more than once around, so that where it begins makes no difference.
	const steps = places + (places >> 2);
	const index = (place: number, level: number): number => {
		const [u, v] = shape.places[place % places]!;
		const s = INNERMOST + level * step;
		const [x, y] = [Math.floor(cx + s * a * u), Math.floor(cy + s * b * v)];
		return x < 0 || y < 0 || x >= w || y >= h ? -1 : y * w + x;
	};
	const before = new Int8Array(steps * levels);
	let costs = new Float64Array(levels);
	for (let p = 0; p < steps; p++) {
		const [u, v] = shape.places[p % places]!;
		// Pixels from one level to the next, in this direction.
		const pixels = Math.hypot(a * u, b * v) * step;
		const here = new Float64Array(levels);
		for (let l = 0; l < levels; l++) {
			let [best, by] = [p === 0 ? 0 : Infinity, 0];
			for (let t = -STEEPEST; p > 0 && t <= STEEPEST; t++) {
				const from = costs[l + t];
				if (from === undefined) continue;
				const sum = from + TURN * Math.abs(t) * pixels;
				if (sum < best) [best, by] = [sum, t];
			}
			const i = index(p, l);
			here[l] = best + (i < 0 ? GAP : cost(i));
			before[p * levels + l] = by;
		}
		costs = here;
	}
	const course: number[] = [];
	const least = Math.min(...costs);
	let level = costs.indexOf(least);
	for (let p = steps - 1; p >= steps - places; p--) {
		const i = index(p, level);
		if (i >= 0) course.push(i);
		level += before[p * levels + level]!;
	}
	return { course, costs: least };
}

/** Peels what hangs together at a place, where it is no more than `most` pixels. */
function peelWhatIsLeft(mine: Uint8Array, peeled: Uint8Array, w: number, at: number, most: number): void {
	const seen = new Set([at]);
	for (const i of seen) {
		if (seen.size > most) return;
		const x = i % w;
		for (const next of [x > 0 ? i - 1 : -1, x < w - 1 ? i + 1 : -1, i - w, i + w]) {
			if (next >= 0 && mine[next] && !peeled[next]) seen.add(next);
		}
	}
	for (const i of seen) peeled[i] = 1;
}
