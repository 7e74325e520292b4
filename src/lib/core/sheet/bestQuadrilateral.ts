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
const MARGIN = 0.08;
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
 */
export function bestQuadrilaterals(edges: EdgeMap, lines: SideLines, count = 3): Candidate[] {
	const profiles = {
		top: lines.top.map((l) => profile(edges, l)),
		right: lines.right.map((l) => profile(edges, l)),
		bottom: lines.bottom.map((l) => profile(edges, l)),
		left: lines.left.map((l) => profile(edges, l))
	};
	const { width, height } = edges;
	const crossing = (a: Profile[], b: Profile[]) =>
		a.map((p) => b.map((q) => intersection(p.line, q.line, width, height)));
	const topLeft = crossing(profiles.top, profiles.left);
	const topRight = crossing(profiles.top, profiles.right);
	const bottomRight = crossing(profiles.bottom, profiles.right);
	const bottomLeft = crossing(profiles.bottom, profiles.left);

	const measures = {
		top: measureSides(profiles.top, topLeft, topRight, profiles.left.length, profiles.right.length),
		right: measureSides(
			profiles.right,
			transposed(topRight, profiles.right.length),
			transposed(bottomRight, profiles.right.length),
			profiles.top.length,
			profiles.bottom.length
		),
		bottom: measureSides(
			profiles.bottom,
			bottomLeft,
			bottomRight,
			profiles.left.length,
			profiles.right.length
		),
		left: measureSides(
			profiles.left,
			transposed(topLeft, profiles.left.length),
			transposed(bottomLeft, profiles.left.length),
			profiles.top.length,
			profiles.bottom.length
		)
	};

	const borderFlags = (family: readonly Profile[]) => family.map((p) => (p.line.border ? 1 : 0));
	const isBorder = {
		top: borderFlags(profiles.top),
		right: borderFlags(profiles.right),
		bottom: borderFlags(profiles.bottom),
		left: borderFlags(profiles.left)
	};

	const best: Candidate[] = [];
	const whole = width * height;
	const [lefts, rights, bottoms] = [profiles.left.length, profiles.right.length, profiles.bottom.length];
	for (let t = 0; t < profiles.top.length; t++) {
		for (let l = 0; l < lefts; l++) {
			const a = topLeft[t]![l];
			if (!a) continue;
			for (let r = 0; r < rights; r++) {
				const b = topRight[t]![r];
				if (!b || b[0] <= a[0]) continue;
				const top = ((t * lefts + l) * rights + r) * MEASURES;
				for (let bo = 0; bo < bottoms; bo++) {
					const c = bottomRight[bo]![r];
					const d = bottomLeft[bo]![l];
					if (!c || !d || c[1] <= b[1] || d[1] <= a[1] || c[0] <= d[0]) continue;
					const area = ((c[0] - a[0]) * (d[1] - b[1]) - (d[0] - b[0]) * (c[1] - a[1])) / 2;
					if (area < LEAST_AREA * whole) continue;
					const right = ((r * profiles.top.length + t) * bottoms + bo) * MEASURES;
					const bottom = ((bo * lefts + l) * rights + r) * MEASURES;
					const left = ((l * profiles.top.length + t) * bottoms + bo) * MEASURES;
					const supportTop = measures.top[top]!;
					const supportRight = measures.right[right]!;
					const supportBottom = measures.bottom[bottom]!;
					const supportLeft = measures.left[left]!;
					const borders = isBorder.top[t]! + isBorder.right[r]! + isBorder.bottom[bo]! + isBorder.left[l]!;
					if (borders > 2) continue;
					// A border of the picture shows no edge: it counts with a fixed loss, the seen sides speak.
					const share = 1 / (4 - borders);
					const mean =
						(supportTop * (1 - isBorder.top[t]!) +
							supportRight * (1 - isBorder.right[r]!) +
							supportBottom * (1 - isBorder.bottom[bo]!) +
							supportLeft * (1 - isBorder.left[l]!)) *
						share;
					// At best, the weakest side is as good as the mean, and step and size are full.
					const bound = mean * (1 + WEAKEST_WEIGHT) + STEP_WEIGHT + AREA_WEIGHT - BORDER_LOSS * borders;
					if (best.length >= KEPT && bound <= best[best.length - 1]!.score) continue;
					const weakest = Math.min(
						supportTop + isBorder.top[t]!,
						supportRight + isBorder.right[r]!,
						supportBottom + isBorder.bottom[bo]!,
						supportLeft + isBorder.left[l]!
					);
					const sum = (k: number) =>
						measures.top[top + k]! +
						measures.right[right + k]! +
						measures.bottom[bottom + k]! +
						measures.left[left + k]!;
					const step = sum(1) * share;
					const overrun = sum(2) / 4;
					const score =
						mean +
						WEAKEST_WEIGHT * weakest -
						OVERRUN_WEIGHT * overrun +
						STEP_WEIGHT * step -
						BORDER_LOSS * borders +
						AREA_WEIGHT * Math.sqrt(area / whole);
					if (best.length >= KEPT && score <= best[best.length - 1]!.score) continue;
					const sides = {
						top: profiles.top[t]!.line,
						right: profiles.right[r]!.line,
						bottom: profiles.bottom[bo]!.line,
						left: profiles.left[l]!.line
					};
					const corners: Quadrilateral = [a, b, c, d];
					if (!isConvex(corners)) continue;
					best.push({
						corners,
						sides,
						support: { top: supportTop, right: supportRight, bottom: supportBottom, left: supportLeft },
						step,
						score
					});
					best.sort((p, q) => q.score - p.score);
					if (best.length > KEPT) best.pop();
				}
			}
		}
	}
	return distinct(best, count, Math.hypot(width, height) * 0.02);
}

type Crossings = readonly (readonly (Point | null)[])[];

function transposed(crossings: Crossings, columns: number): Crossings {
	return Array.from({ length: columns }, (_, j) => crossings.map((row) => row[j] ?? null));
}

/**
 * Support, step and overrun of every line of one family between every pair of corners that the two
 * neighbouring families make on it: `lines x starts x ends x MEASURES`. Computed once for each, not once for each
 * of the quadrilaterals that share it.
 */
function measureSides(
	family: readonly Profile[],
	starts: Crossings,
	ends: Crossings,
	startCount: number,
	endCount: number
): Float32Array {
	const out = new Float32Array(family.length * startCount * endCount * MEASURES);
	family.forEach((line, i) => {
		for (let s = 0; s < startCount; s++) {
			const start = starts[i]![s];
			if (!start) continue;
			for (let e = 0; e < endCount; e++) {
				const end = ends[i]![e];
				if (end) measureSide(line, start, end, out, ((i * startCount + s) * endCount + e) * MEASURES);
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
	const tx = -line.ny;
	const ty = line.nx;
	// The foot of the perpendicular from the origin, then one sample a pixel both ways.
	const fx = line.nx * line.rho;
	const fy = line.ny * line.rho;
	const reach = Math.ceil(Math.hypot(width, height)) * 1.2;
	const from = -reach;
	const length = Math.round(2 * reach);
	const support = new Float32Array(length + 1);
	const step = new Float32Array(length + 1);
	let seenFrom = length;
	let seenTo = 0;
	for (let i = 0; i < length; i++) {
		const x = fx + (from + i + 0.5) * tx;
		const y = fy + (from + i + 0.5) * ty;
		let s = UNSEEN;
		let difference = 0;
		const inside = x >= 2 && y >= 2 && x < width - 2 && y < height - 2;
		if (inside && !line.border) {
			seenFrom = Math.min(seenFrom, i);
			seenTo = i + 1;
			s = 0;
			for (let o = -1; o <= 1; o++) {
				const px = (x + o * line.nx) | 0;
				const py = (y + o * line.ny) | 0;
				const j = py * width + px;
				s = Math.max(s, gx[j]! * line.nx + gy[j]! * line.ny);
			}
			s = Math.min(s / CERTAIN_EDGE, 1);
			const at = (o: number) => {
				const px = Math.min(Math.max((x + o * line.nx) | 0, 0), width - 1);
				const py = Math.min(Math.max((y + o * line.ny) | 0, 0), height - 1);
				return paper.data[py * width + px]!;
			};
			difference = Math.max(-1, Math.min(1, (at(6) + at(4) - at(-4) - at(-6)) / 2 / FULL_STEP));
		}
		support[i + 1] = support[i]! + s;
		step[i + 1] = step[i]! + difference;
	}
	return { line, tx, ty, from, seenFrom, seenTo, support, step };
}

/** Writes support, step and overrun of the part of a line between two corners. */
function measureSide(p: Profile, start: Point, end: Point, out: Float32Array, at: number): void {
	const last = p.support.length - 1;
	const one = Math.min(Math.max(Math.round(start[0] * p.tx + start[1] * p.ty - p.from), 0), last);
	const two = Math.min(Math.max(Math.round(end[0] * p.tx + end[1] * p.ty - p.from), 0), last);
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
