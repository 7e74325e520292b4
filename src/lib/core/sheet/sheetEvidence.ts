import type { Picture } from '../raster/picture';
import type { Candidate } from './bestQuadrilateral';
import { distance, signedArea, type Point, type Quadrilateral } from './geometry';
import type { Side } from './sideLines';

const SIDES: readonly Side[] = ['top', 'right', 'bottom', 'left'];

/** The lighter half of each small square of a picture: what lies under the ink. */
export interface Ground {
	readonly width: number;
	readonly height: number;
	/** Luma, red less blue, green less the mean of both, of each square. */
	readonly light: Float32Array;
	readonly redBlue: Float32Array;
	readonly green: Float32Array;
}

/** Side of a square in pixels. */
const SQUARE = 6;

/** The ground of a picture in squares. */
export function groundOf({ width: w, height: h, channels, data }: Picture): Ground {
	const width = Math.max(1, Math.floor(w / SQUARE));
	const height = Math.max(1, Math.floor(h / SQUARE));
	const light = new Float32Array(width * height);
	const redBlue = new Float32Array(width * height);
	const green = new Float32Array(width * height);
	const luma = new Float32Array(SQUARE * SQUARE);
	for (let j = 0, i = 0; j < height; j++) {
		for (let k = 0; k < width; k++, i++) {
			let sum = 0;
			for (let y = 0, n = 0; y < SQUARE; y++) {
				let p = ((j * SQUARE + y) * w + k * SQUARE) * channels;
				for (let x = 0; x < SQUARE; x++, n++, p += channels) {
					luma[n] = 0.299 * data[p]! + 0.587 * data[p + 1]! + 0.114 * data[p + 2]!;
					sum += luma[n]!;
				}
			}
			const mean = sum / luma.length;
			let [count, l, r, g, b] = [0, 0, 0, 0, 0];
			for (let y = 0, n = 0; y < SQUARE; y++) {
				let p = ((j * SQUARE + y) * w + k * SQUARE) * channels;
				for (let x = 0; x < SQUARE; x++, n++, p += channels) {
					if (luma[n]! < mean) continue;
					count++;
					l += luma[n]!;
					r += data[p]!;
					g += data[p + 1]!;
					b += data[p + 2]!;
				}
			}
			// Rounding may leave a flat square with nothing at its mean.
			if (count === 0) [count, l] = [1, mean];
			light[i] = l / count;
			redBlue[i] = (r - b) / count;
			green[i] = (g - (r + b) / 2) / count;
		}
	}
	return { width, height, light, redBlue, green };
}

/** What is seen along one side of a hypothesis. */
interface SideEvidence {
	/** How surely the ground changes from inside to outside, 0 to 1: the mean of the places along it. */
	readonly change: number;
	/** By how much it gets darker, as a share of the brighter one: a quarter of the side has less. */
	readonly step: number;
	/** Share of the places along it beyond which the ground becomes again what it was inside. */
	readonly comesBack: number;
}

/** What tells a sheet from lines on paper and from things that are no sheet. */
export interface SheetEvidence {
	/** How well edges are seen along its sides; see `Candidate`. */
	readonly score: number;
	/** How surely the ground changes along the side where it changes least, 0 to 1. */
	readonly leastChange: number;
	/** By how much it gets darker outside, at the side where it does least, 0 to 1. */
	readonly leastStep: number;
	/** Share of the places beyond a plain side where the paper goes on further out: the most of all sides. */
	readonly comesBack: number;
	/** Share of its four sides that lie in the picture. */
	readonly seen: number;
	/** Its size beside the picture's: the square root of the area's share, 0 to 1. */
	readonly size: number;
	/** Logarithm of how much the colour of its ground changes from square to square. */
	readonly colours: number;
	/** Share of its squares that are ground, and not solid ink. */
	readonly paper: number;
}

/** How far from the side the ground is looked at, on both sides, in squares: none that the side runs through. */
const BESIDE = [1.5, 2.4] as const;
/** Places nearer to the ends than this share of the side are left out. */
const END = 0.05;
/** How far out it is asked whether the ground comes back, as a share of the picture's longer side. */
const FAR = 0.35;
/** A step of this much is plain: beyond it, it is asked whether the paper comes back. */
const PLAIN = 0.1;
/** A step of this much is full evidence: white paper on a white table has 0.05. */
const FULL_STEP = 0.04;
const FULL_COLOUR = 0.1;
/** A side of which the outside is seen at fewer places lies at the rim. */
const LEAST_PLACES = 5;
/** Squares darker than this share of the brightest of their neighbours are ink. */
const INK = 0.45;
const NEIGHBOURS = 2;
/** Sides nearer to the rim than this, in squares, count only where they are plain. */
const RIM = 4;
/** Squares across the inside that are looked at. */
const ACROSS = 14;

/**
 * What speaks for and against a hypothesis beyond the edges along its sides: whether the ground changes from paper to
 * something else all along them, whether the paper goes on further out, and whether the inside is one paper.
 */
export function sheetEvidence(ground: Ground, { corners, sides, score }: Candidate): SheetEvidence {
	const seen = SIDES.flatMap((side, i) => {
		if (sides[side].border) return [];
		const evidence = besideSide(ground, corners[i]!, corners[(i + 1) % 4]!);
		return evidence ? [evidence] : [];
	});
	const back = seen.filter(({ step }) => step > PLAIN).map(({ comesBack }) => comesBack);
	const { colours, paper } = inside(ground, corners);
	const whole = ground.width * ground.height * SQUARE * SQUARE;
	return {
		score,
		leastChange: Math.min(1, ...seen.map(({ change }) => change)),
		leastStep: Math.max(0, Math.min(1, ...seen.map(({ step }) => step))),
		comesBack: Math.max(0, ...back),
		seen: seen.length / 4,
		size: Math.min(1, Math.sqrt(Math.max(0, signedArea(corners)) / whole)),
		colours: Math.log(0.01 + colours),
		paper
	};
}

/** How surely the ground is another one, 0 to 1. */
function changeOf(step: number, colour: number): number {
	return Math.min(1, Math.max(0, Math.max(step / FULL_STEP, step > -FULL_STEP ? colour / FULL_COLOUR : 0)));
}

function besideSide(ground: Ground, a: Point, b: Point): SideEvidence | null {
	const length = distance(a, b);
	const [tx, ty] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
	// Clockwise on a screen: the inside is to the right of the direction of travel.
	const [nx, ny] = [-ty, tx];
	const places = Math.max(8, Math.min(48, Math.floor(((1 - 2 * END) * length) / SQUARE)));
	const at = (t: number, d: number) =>
		squareAt(ground, a[0] + t * length * tx + d * SQUARE * nx, a[1] + t * length * ty + d * SQUARE * ny);
	const steps: number[] = [];
	let change = 0;
	let asked = 0;
	let back = 0;
	const far = (FAR * Math.max(ground.width, ground.height)) | 0;
	for (let k = 0; k < places; k++) {
		const t = END + ((1 - 2 * END) * (k + 0.5)) / places;
		const inner = brighter(ground, at(t, BESIDE[0]), at(t, BESIDE[1]));
		const outer = brighter(ground, at(t, -BESIDE[0]), at(t, -BESIDE[1]));
		if (inner < 0 || outer < 0) continue;
		const [li, lo] = [ground.light[inner]!, ground.light[outer]!];
		const step = (li - lo) / Math.max(li, lo, 8);
		steps.push(step);
		change += changeOf(step, colourBetween(ground, inner, outer));
		if (li - lo < PLAIN * li || k % 3 > 0) continue;
		asked++;
		for (let d = 3; d < far; d++) {
			const i = at(t, -d);
			if (i < 0) break;
			if (ground.light[i]! > lo + 0.7 * (li - lo) && colourBetween(ground, inner, i) < 0.08) {
				back++;
				break;
			}
		}
	}
	if (steps.length < Math.max(LEAST_PLACES, 0.3 * places)) return null;
	// A line in the margin of a page that fills the picture: taking it for a side or not is nearly the same.
	if (change < 0.5 * steps.length && at(0.5, -RIM) < 0) return null;
	return {
		change: change / steps.length,
		step: quarter(steps),
		comesBack: asked > 0 ? back / asked : 0
	};
}

function quarter(values: number[]): number {
	return values.sort((p, q) => p - q)[Math.floor(values.length / 4)]!;
}

/** The square at a place in pixels; -1 outside the picture. */
function squareAt({ width, height }: Ground, x: number, y: number): number {
	const i = Math.floor(x / SQUARE);
	const j = Math.floor(y / SQUARE);
	return i < 0 || j < 0 || i >= width || j >= height ? -1 : j * width + i;
}

/** Of two squares the brighter one, so that a word beside the side does not count for ground. */
function brighter({ light }: Ground, i: number, j: number): number {
	if (i < 0 || j < 0) return Math.max(i, j);
	return light[i]! > light[j]! ? i : j;
}

function colourBetween({ light, redBlue, green }: Ground, i: number, j: number): number {
	const across = Math.hypot(redBlue[i]! - redBlue[j]!, 2 * (green[i]! - green[j]!));
	return across / Math.max(light[i]!, light[j]!, 30);
}

/** How much of the inside is ground, and how its colour changes from square to square. */
function inside(ground: Ground, [a, b, c, d]: Quadrilateral): { colours: number; paper: number } {
	const grid = new Int32Array(ACROSS * ACROSS);
	for (let j = 0; j < ACROSS; j++) {
		const v = 0.05 + (0.9 * (j + 0.5)) / ACROSS;
		for (let i = 0; i < ACROSS; i++) {
			const u = 0.05 + (0.9 * (i + 0.5)) / ACROSS;
			const [x, y] = [0, 1].map((k) => {
				const [p, q, r, s] = [a[k as 0 | 1], b[k as 0 | 1], c[k as 0 | 1], d[k as 0 | 1]];
				return (1 - v) * ((1 - u) * p + u * q) + v * ((1 - u) * s + u * r);
			}) as [number, number];
			grid[j * ACROSS + i] = squareAt(ground, x, y);
		}
	}
	const lights = Float32Array.from(grid, (i) => (i < 0 ? -1 : ground.light[i]!));
	const around = brightestAround(brightestAround(lights, 1), ACROSS);
	// What is printed solid is no ground.
	const isGround = (n: number) => lights[n]! >= INK * around[n]!;
	const colours: number[] = [];
	let count = 0;
	let all = 0;
	for (let n = 0; n < grid.length; n++) {
		if (grid[n]! < 0) continue;
		all++;
		if (!isGround(n)) continue;
		count++;
		for (const m of [(n + 1) % ACROSS > 0 ? n + 1 : -1, n + ACROSS]) {
			if (m < 0 || m >= grid.length || grid[m]! < 0 || !isGround(m)) continue;
			colours.push(colourBetween(ground, grid[n]!, grid[m]!));
		}
	}
	return { colours: share(colours, 0.5), paper: count / Math.max(1, all) };
}

/** The largest of a few values before and behind each one; `stride` apart. */
function brightestAround(values: Float32Array, stride: number): Float32Array {
	return values.map((value, n) => {
		let best = value;
		for (let k = -NEIGHBOURS; k <= NEIGHBOURS; k++) best = Math.max(best, values[n + k * stride] ?? -1);
		return best;
	});
}

/** The value that a share of all of them is under; 0 of none. Sorts in place. */
function share(values: number[], at: number): number {
	return values.length > 0 ? values.sort((p, q) => p - q)[Math.floor(at * (values.length - 1))]! : 0;
}
