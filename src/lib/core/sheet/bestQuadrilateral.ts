import type { FloatPlane } from '../raster/picture';
import type { EdgeMap } from './edgeMap';
import { isConvex, type Point, type Quadrilateral } from './geometry';
import type { Side, SideLine, SideLines } from './sideLines';

/** A sheet hypothesis with what speaks for it. */
export interface Candidate {
	/** Corners in pixels of the edge map, clockwise from the top left one. */
	readonly corners: Quadrilateral;
	readonly sides: Readonly<Record<Side, SideLine>>;
	/** Fraction of each side along which there is an edge of the right direction, 0 to 1. */
	readonly support: Readonly<Record<Side, number>>;
	/** How much brighter the inside is than the outside along the sides, -1 to 1. */
	readonly step: number;
	readonly score: number;
}

/** What a stretch of side beyond the border of the picture counts as: what is seen of the side speaks for it. */
const UNSEEN = 0.8;
/** A normalised gradient this strong is an edge without doubt. */
const CERTAIN_EDGE = 1.6;
/** Sheets smaller than this fraction of the picture are not looked for. */
const LEAST_AREA = 0.045;
/** Corners may lie this far outside the picture, as a fraction of its size. */
const MARGIN = 0.25;
/** How far past a corner a side is looked at: real sides end there, ruled lines and margins do not. */
const OVERRUN_LENGTH = 0.07;
const OVERRUN_WEIGHT = 0.35;
const WEAKEST_WEIGHT = 0.55;
const AREA_WEIGHT = 0.16;
/** Grey levels between inside and outside that make a side as believable as it gets. */
const FULL_STEP = 14;
const STEP_WEIGHT = 0.22;
/** What it costs a hypothesis that the picture's border takes the place of a side. */
const BORDER_LOSS = 0.13;
/** Numbers kept of each side: support, step and overrun. */
const MEASURES = 3;
/** Hypotheses held while the others are tried. */
const KEPT = 40;

interface Profile {
	readonly line: SideLine;
	/** Direction along the line: the normal turned a quarter clockwise. */
	readonly tx: number;
	readonly ty: number;
	readonly from: number;
	/** The samples that lie inside the picture. */
	readonly seenFrom: number;
	readonly seenTo: number;
	/** Running sums, one sample a pixel: of edge support and of the step from outside to inside. */
	readonly support: Float32Array;
	readonly step: Float32Array;
}

/**
 * Tries every combination of four side lines and returns the hypotheses with the best score,
 * best first: mean and weakest support along the sides, how much brighter the inside is, how little
 * the sides run on past the corners, and a small reward for size (so that a sheet wins over the
 * ruled lines in it).
 *
 * @param stands how the families of lines are meant: a sheet on a corner has its `top` at the upper right
 */
export function bestQuadrilaterals(
	edges: EdgeMap,
	lines: SideLines,
	count = 3,
	stands: 'upright' | 'on a corner' = 'upright'
): Candidate[] {
	const profiles = {
		top: lines.top.map((l) => profile(edges, l)),
		right: lines.right.map((l) => profile(edges, l)),
		bottom: lines.bottom.map((l) => profile(edges, l)),
		left: lines.left.map((l) => profile(edges, l))
	};
	const { width, height } = edges;
	const topLeft = crossings(profiles.top, profiles.left, width, height);
	const topRight = crossings(profiles.top, profiles.right, width, height);
	const bottomRight = crossings(profiles.bottom, profiles.right, width, height);
	const bottomLeft = crossings(profiles.bottom, profiles.left, width, height);
	// Corners by how the sheet stands: compared there, kept as they are in the picture.
	const frame = (c: Crossings) => (stands === 'upright' ? c : turnedBack(c));
	const [framedA, framedB] = [frame(topLeft), frame(topRight)];
	const [framedC, framedD] = [frame(bottomRight), frame(bottomLeft)];
	const measures = {
		top: measureSides(profiles.top, topLeft, topRight),
		right: measureSides(profiles.right, transposed(topRight), transposed(bottomRight)),
		bottom: measureSides(profiles.bottom, bottomLeft, bottomRight),
		left: measureSides(profiles.left, transposed(topLeft), transposed(bottomLeft))
	};
	const borderFlags = (family: readonly Profile[]) => family.map((p) => (p.line.border ? 1 : 0));
	const isBorder = {
		top: borderFlags(profiles.top),
		right: borderFlags(profiles.right),
		bottom: borderFlags(profiles.bottom),
		left: borderFlags(profiles.left)
	};

	const best: Candidate[] = [];
	let least = -Infinity;
	const whole = width * height;
	const leastArea = LEAST_AREA * whole;
	const tops = profiles.top.length;
	const [lefts, rights, bottoms] = [profiles.left.length, profiles.right.length, profiles.bottom.length];
	for (let t = 0; t < tops; t++) {
		for (let l = 0; l < lefts; l++) {
			const ax = framedA.x[t * lefts + l]!;
			const ay = framedA.y[t * lefts + l]!;
			for (let r = 0; r < rights; r++) {
				const bx = framedB.x[t * rights + r]!;
				const by = framedB.y[t * rights + r]!;
				// Corners that do not exist are not a number, and fail every comparison.
				if (!(bx > ax)) continue;
				const top = ((t * lefts + l) * rights + r) * MEASURES;
				for (let bo = 0; bo < bottoms; bo++) {
					const cx = framedC.x[bo * rights + r]!;
					const cy = framedC.y[bo * rights + r]!;
					const dx = framedD.x[bo * lefts + l]!;
					const dy = framedD.y[bo * lefts + l]!;
					if (!(cy > by && dy > ay && cx > dx)) continue;
					const area = ((cx - ax) * (dy - by) - (dx - bx) * (cy - ay)) / 2;
					if (area < leastArea) continue;
					const borders = isBorder.top[t]! + isBorder.right[r]! + isBorder.bottom[bo]! + isBorder.left[l]!;
					if (borders > 2) continue;
					const right = ((r * tops + t) * bottoms + bo) * MEASURES;
					const bottom = ((bo * lefts + l) * rights + r) * MEASURES;
					const left = ((l * tops + t) * bottoms + bo) * MEASURES;
					const supportTop = measures.top[top]!;
					const supportRight = measures.right[right]!;
					const supportBottom = measures.bottom[bottom]!;
					const supportLeft = measures.left[left]!;
					// A border of the picture shows no edge: it counts with a fixed loss, the seen sides speak.
					const share = 1 / (4 - borders);
					const mean =
						(supportTop * (1 - isBorder.top[t]!) +
							supportRight * (1 - isBorder.right[r]!) +
							supportBottom * (1 - isBorder.bottom[bo]!) +
							supportLeft * (1 - isBorder.left[l]!)) *
						share;
					// At best, the weakest side is as good as the mean, and step and size are full.
					if (mean * (1 + WEAKEST_WEIGHT) + STEP_WEIGHT + AREA_WEIGHT - BORDER_LOSS * borders <= least)
						continue;
					const weakest = Math.min(
						supportTop + isBorder.top[t]!,
						supportRight + isBorder.right[r]!,
						supportBottom + isBorder.bottom[bo]!,
						supportLeft + isBorder.left[l]!
					);
					const step =
						share *
						(measures.top[top + 1]! +
							measures.right[right + 1]! +
							measures.bottom[bottom + 1]! +
							measures.left[left + 1]!);
					const overrun =
						(measures.top[top + 2]! +
							measures.right[right + 2]! +
							measures.bottom[bottom + 2]! +
							measures.left[left + 2]!) /
						4;
					const score =
						mean +
						WEAKEST_WEIGHT * weakest -
						OVERRUN_WEIGHT * overrun +
						STEP_WEIGHT * step -
						BORDER_LOSS * borders +
						AREA_WEIGHT * Math.sqrt(area / whole);
					if (score <= least) continue;
					const corners: Quadrilateral = [
						crossingAt(topLeft, t, l),
						crossingAt(topRight, t, r),
						crossingAt(bottomRight, bo, r),
						crossingAt(bottomLeft, bo, l)
					];
					if (!isConvex(corners)) continue;
					const sides = {
						top: profiles.top[t]!.line,
						right: profiles.right[r]!.line,
						bottom: profiles.bottom[bo]!.line,
						left: profiles.left[l]!.line
					};
					best.push({
						corners,
						sides,
						support: { top: supportTop, right: supportRight, bottom: supportBottom, left: supportLeft },
						step,
						score
					});
					best.sort((p, q) => q.score - p.score);
					if (best.length > KEPT) best.pop();
					if (best.length === KEPT) least = best[KEPT - 1]!.score;
				}
			}
		}
	}
	return distinct(best, count, Math.hypot(width, height) * 0.02);
}

/** Where the lines of one family meet those of another, `rows x columns`; not a number where they do not. */
interface Crossings {
	readonly rows: number;
	readonly columns: number;
	readonly x: Float64Array;
	readonly y: Float64Array;
}

function crossings(
	down: readonly Profile[],
	across: readonly Profile[],
	width: number,
	height: number
): Crossings {
	const [rows, columns] = [down.length, across.length];
	const x = new Float64Array(rows * columns).fill(NaN);
	const y = x.slice();
	for (let i = 0; i < x.length; i++) {
		const at = intersection(down[Math.floor(i / columns)]!.line, across[i % columns]!.line, width, height);
		if (at) [x[i], y[i]] = at;
	}
	return { rows, columns, x, y };
}

function crossingAt({ columns, x, y }: Crossings, row: number, column: number): Point {
	return [x[row * columns + column]!, y[row * columns + column]!];
}

/** Seen with the picture turned by an eighth, anticlockwise: a sheet that stands on a corner lies upright there. */
function turnedBack({ rows, columns, x, y }: Crossings): Crossings {
	const by = Math.SQRT1_2;
	return {
		rows,
		columns,
		x: x.map((v, i) => by * (v + y[i]!)),
		y: y.map((v, i) => by * (v - x[i]!))
	};
}

function transposed({ rows, columns, x, y }: Crossings): Crossings {
	const from = (i: number) => (i % rows) * columns + Math.floor(i / rows);
	return { rows: columns, columns: rows, x: x.map((_, i) => x[from(i)]!), y: y.map((_, i) => y[from(i)]!) };
}

/**
 * Support, step and overrun of every line of one family between every pair of corners that the two
 * neighbouring families make on it: `lines x starts x ends x MEASURES`. Computed once for each, not once for each
 * of the quadrilaterals that share it.
 */
function measureSides(family: readonly Profile[], starts: Crossings, ends: Crossings): Float32Array {
	const out = new Float32Array(family.length * starts.columns * ends.columns * MEASURES);
	let at = 0;
	family.forEach((line, i) => {
		for (let s = i * starts.columns; s < (i + 1) * starts.columns; s++) {
			for (let e = i * ends.columns; e < (i + 1) * ends.columns; e++, at += MEASURES) {
				const startX = starts.x[s]!;
				const endX = ends.x[e]!;
				if (Number.isNaN(startX) || Number.isNaN(endX)) continue;
				const start = startX * line.tx + starts.y[s]! * line.ty;
				const end = endX * line.tx + ends.y[e]! * line.ty;
				measureSide(line, start, end, out, at);
			}
		}
	});
	return out;
}

/** Drops hypotheses whose corners all lie within `near` pixels of a better one's. */
function distinct(sorted: readonly Candidate[], count: number, near: number): Candidate[] {
	const kept: Candidate[] = [];
	for (const candidate of sorted) {
		const same = kept.some((k) =>
			k.corners.every((c, i) => {
				const o = candidate.corners[i]!;
				return Math.hypot(c[0] - o[0], c[1] - o[1]) < near;
			})
		);
		if (!same) kept.push(candidate);
		if (kept.length === count) break;
	}
	return kept;
}

function profile(edges: EdgeMap, line: SideLine): Profile {
	const { width, height, gx, gy, paper } = edges;
	const { nx, ny } = line;
	const tx = -ny;
	const ty = nx;
	const reach = Math.ceil(Math.hypot(width, height)) * 1.2;
	const from = -reach;
	const length = Math.round(2 * reach);
	// One sample a pixel both ways from the foot of the perpendicular from the origin; the first is here.
	const x0 = nx * line.rho + (from + 0.5) * tx;
	const y0 = ny * line.rho + (from + 0.5) * ty;
	const [seenFrom, seenTo] = line.border ? [length, 0] : samplesInside(x0, y0, tx, ty, length, width, height);
	const support = new Float32Array(length + 1);
	const step = new Float32Array(length + 1);
	for (let i = 0; i < length; i++) {
		let s = UNSEEN;
		let difference = 0;
		if (i >= seenFrom && i < seenTo) {
			const x = x0 + i * tx;
			const y = y0 + i * ty;
			s = 0;
			for (let o = -1; o <= 1; o++) {
				const j = ((y + o * ny) | 0) * width + ((x + o * nx) | 0);
				s = Math.max(s, gx[j]! * nx + gy[j]! * ny);
			}
			s = Math.min(s / CERTAIN_EDGE, 1);
			const inner = nearest(paper, x + 6 * nx, y + 6 * ny) + nearest(paper, x + 4 * nx, y + 4 * ny);
			const outer = nearest(paper, x - 6 * nx, y - 6 * ny) + nearest(paper, x - 4 * nx, y - 4 * ny);
			difference = Math.max(-1, Math.min(1, (inner - outer) / 2 / FULL_STEP));
		}
		support[i + 1] = support[i]! + s;
		step[i + 1] = step[i]! + difference;
	}
	return { line, tx, ty, from, seenFrom, seenTo, support, step };
}

/** Which of the samples along a line lie inside the picture, two pixels from its rim: from the first to before the second. */
function samplesInside(
	x0: number,
	y0: number,
	tx: number,
	ty: number,
	length: number,
	width: number,
	height: number
): [number, number] {
	let from = 0;
	let to = length;
	for (const [start, along, size] of [
		[x0, tx, width],
		[y0, ty, height]
	] as const) {
		if (Math.abs(along) < 1e-9) {
			if (start < 2 || start >= size - 2) return [length, 0];
			continue;
		}
		const ends = [(2 - start) / along, (size - 2 - start) / along];
		from = Math.max(from, Math.ceil(Math.min(...ends) + 1e-6));
		to = Math.min(to, Math.ceil(Math.max(...ends) - 1e-6));
	}
	return from < to ? [from, to] : [length, 0];
}

/** The value at a place, or at the one nearest to it inside the plane. */
function nearest({ width, height, data }: FloatPlane, x: number, y: number): number {
	const px = Math.min(Math.max(x | 0, 0), width - 1);
	const py = Math.min(Math.max(y | 0, 0), height - 1);
	return data[py * width + px]!;
}

/** Writes support, step and overrun of the part of a line between two places on it, in pixels from its foot. */
function measureSide(p: Profile, start: number, end: number, out: Float32Array, at: number): void {
	const last = p.support.length - 1;
	const one = Math.min(Math.max(Math.round(start - p.from), 0), last);
	const two = Math.min(Math.max(Math.round(end - p.from), 0), last);
	const from = Math.min(one, two);
	const to = Math.max(one, two);
	const length = Math.max(to - from, 1);
	out[at] = (p.support[to]! - p.support[from]!) / length;
	out[at + 1] = (p.step[to]! - p.step[from]!) / length;
	if (p.line.border) return;
	const beyond = Math.max(3, Math.round(length * OVERRUN_LENGTH));
	const gap = 2;
	out[at + 2] =
		(meanSupport(p, from - gap - beyond, from - gap) + meanSupport(p, to + gap, to + gap + beyond)) / 2;
}

function meanSupport({ support, seenFrom, seenTo }: Profile, from: number, to: number): number {
	const lo = Math.max(from, seenFrom);
	const hi = Math.min(to, seenTo);
	return hi > lo ? (support[hi]! - support[lo]!) / (hi - lo) : 0;
}

function intersection(p: SideLine, q: SideLine, width: number, height: number): Point | null {
	const determinant = p.nx * q.ny - p.ny * q.nx;
	// Less than 30 degrees between two sides is no sheet seen by a camera.
	if (Math.abs(determinant) < 0.5) return null;
	const x = (p.rho * q.ny - q.rho * p.ny) / determinant;
	const y = (q.rho * p.nx - p.rho * q.nx) / determinant;
	const mx = width * MARGIN;
	const my = height * MARGIN;
	if (x < -mx || y < -my || x > width + mx || y > height + my) return null;
	return [x, y];
}
