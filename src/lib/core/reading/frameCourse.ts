import { components } from '../raster/components';
import type { Box } from './pieces';

/** What a step along a frame costs: where it has a gap, where it runs through other strokes, and for each pixel it turns. */
const GAP = 1;
const IN_STROKE = 0.15;
const TURN = 0.5;
/** What a frame costs at most, for each place of it, that is nearly all there and hardly turns. */
const COMPLETE = 0.1;
/** Levels that a frame may turn from one place to the next. */
const STEEPEST = 4;
/** Pixels from one level to the next where they lie farthest apart: less than a line is thick. */
const LEVEL = 1.5;
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
 * @param mine 1 for the ink of the frame and of what touches it, `w x h`
 * @param around the paper that it encloses, with its line
 * @param thickness of the frame's line, in pixels
 * @returns indices into `mine`, and what the course costs for each of its places: less than 0.1 is nearly all there
 */
export function frameCourse(
	mine: Uint8Array,
	w: number,
	h: number,
	around: Box,
	thickness: number
): { readonly pixels: number[]; readonly costs: number } {
	const along = { across: runs(mine, h, w, w, 1), down: runs(mine, w, h, 1, w) };
	const most = CROSSED * thickness;
	const cost = (i: number) => {
		if (!mine[i]) return GAP;
		return Math.min(length(along.across, i), length(along.down, i)) > most ? IN_STROKE : 0;
	};
	const ways = (bounds: Box) =>
		[ringShape(bounds), boxShape(mine, w, bounds)]
			.map((shape) => cheapestWay(w, h, shape, cost))
			.sort((a, b) => a.costs - b.costs);
	// The outermost that is nearly all there is the frame; else the one of which most is there.
	let [best] = ways([0, 0, w, h]);
	if (best!.costs > COMPLETE) [best] = [best!, ...ways(around)].sort((a, b) => a.costs - b.costs);
	const { course, costs } = best!;
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
	peelWhatIsLeft(mine, peeled, w, h, course, thickness);
	const pixels: number[] = [];
	peeled.forEach((p, i) => {
		if (p) pixels.push(i);
	});
	return { pixels, costs };
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

function ringShape([x0, y0, x1, y1]: Box): Shape {
	const half = [(x1 - x0) / 2, (y1 - y0) / 2] as const;
	const count = Math.ceil(2 * Math.PI * Math.max(...half));
	const places = Array.from({ length: count }, (_, p) => {
		const turn = (2 * Math.PI * p) / count;
		return [Math.cos(turn), Math.sin(turn)] as const;
	});
	return { middle: [x0 + half[0], y0 + half[1]], half, places };
}

/** A box whose sides are the outermost rows and columns that are mostly ink. */
function boxShape(mine: Uint8Array, width: number, [x0, y0, x1, y1]: Box): Shape {
	const [w, h] = [x1 - x0, y1 - y0];
	const row = (y: number) => covered(mine, y * width + x0, 1, w);
	const column = (x: number) => covered(mine, y0 * width + x, width, h);
	const top = y0 + outermostLine(h, (i) => row(y0 + i));
	const left = x0 + outermostLine(w, (i) => column(x0 + i));
	const bottom = y1 - outermostLine(h, (i) => row(y1 - 1 - i));
	const right = x1 - outermostLine(w, (i) => column(x1 - 1 - i));
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

/** How far in the outermost row or column with ink enough lies; 0 where none has enough. */
function outermostLine(size: number, coveredAt: (place: number) => number): number {
	for (let i = 0; i < FARTHEST_IN * size; i++) {
		if (coveredAt(i) < COVERED) continue;
		while (coveredAt(i + 1) > coveredAt(i)) i++;
		return i;
	}
	return 0;
}

/**
 * The cheapest way once around the middle of a `w x h` field, as indices into it, and what it costs for each place.
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
	const step = LEVEL / Math.max(a, b);
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
	return { course, costs: least / steps };
}

/** Peels small groups of ink that are left near the course, where sides meet. */
function peelWhatIsLeft(
	mine: Uint8Array,
	peeled: Uint8Array,
	w: number,
	h: number,
	course: readonly number[],
	thickness: number
): void {
	const left = mine.map((ink, i) => (ink && !peeled[i] ? 1 : 0));
	const { list, labels } = components(left, w, h);
	const near = Math.ceil(thickness);
	const most = (LEFT * thickness) ** 2;
	const small = list.map((group) => group.area <= most);
	const goes = new Set<number>();
	for (const i of course) {
		const [x, y] = [i % w, Math.floor(i / w)];
		for (let v = Math.max(0, y - near); v <= Math.min(h - 1, y + near); v++) {
			for (let u = Math.max(0, x - near); u <= Math.min(w - 1, x + near); u++) {
				const group = labels[v * w + u]!;
				if (group && small[group - 1]) goes.add(group);
			}
		}
	}
	for (let i = 0; i < labels.length; i++) if (goes.has(labels[i]!)) peeled[i] = 1;
}
