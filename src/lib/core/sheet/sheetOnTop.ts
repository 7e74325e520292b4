import type { EdgeMap } from './edgeMap';
import { isConvex, type Point, type Quadrilateral } from './geometry';

/** How far inside a side another sheet's edge is looked for, as a fraction of the outline's shorter side. */
const REACH = 0.13;
/** Edges closer than this, in pixels of the edge map, are the same edge. */
const NEAREST = 3;
/** Sheets lie turned against each other by up to this, in degrees, in steps. */
const MOST_TURN = 4.5;
const TURN_STEP = 0.5;
/** The ends of a side are left out: there the other sides' shadows run in. */
const END = 0.08;
/** A normalised gradient this strong is an edge without doubt. */
const CERTAIN_EDGE = 1.6;
/** An edge must be there along this much of its length. */
const LEAST_SUPPORT = 0.86;
/**
 * Strength of the edge the other way just outside, relative to the edge itself. Measured on generated
 * photographs: drawn lines 0.9 and more, a sheet that throws its small shadow on another 0.3 to 0.8, and one that
 * lies on something darker next to nothing.
 */
const DRAWN_LINE = 0.84;
const ON_DARKER = 0.2;
const OUTSIDE = 3;
/**
 * Where two sheets lie askew, a notch of desk shows inside their common outline at a corner, and the edge of the upper
 * sheet runs to it: such an edge may be fainter and more like a line.
 */
const HINTED_SUPPORT = 0.6;
const HINTED_LINE = 0.95;
const RULING_SUPPORT = 0.85;
const NOTCH_SLACK = 3.5;
/** A notch is looked for this far inside the outline, in pixels. */
const INSET = 4;
/** The desk has to be darker than the paper by this share to be told from it. */
const DARKER = 0.85;
/** Paper is brighter than the desk in the same shadow: the desk has less than this share of its light. */
const SHADED = 0.7;
/** A line's flank is this near to it, in pixels. */
const FLANK = 2;
/** Offsets further apart than this, in pixels, are edges of their own. */
const APART = 6;

/**
 * A sheet often lies on others of which a strip shows. Then the strongest outline takes in the strip. This looks
 * just inside each side for the edge of a sheet on top: straight, along the whole side, bright on its inner side,
 * with paper beyond its shadow. Returns the outline with such sides moved in, or the same outline.
 */
export function sheetOnTop(edges: EdgeMap, corners: Quadrilateral): Quadrilateral {
	const lengths = corners.map((a, i) => {
		const b = corners[(i + 1) % 4]!;
		return Math.hypot(b[0] - a[0], b[1] - a[1]);
	});
	const reach = REACH * Math.min(...lengths);
	const sides = corners.map((a, i) => {
		const b = corners[(i + 1) % 4]!;
		const before = corners[(i + 3) % 4]!;
		const after = corners[(i + 2) % 4]!;
		return innerEdge(edges, a, b, before, after, reach) ?? ([a, b] as const);
	});
	if (sides.every((s, i) => s[0] === corners[i])) return corners;
	const moved = sides.map((side, i) => meet(sides[(i + 3) % 4]!, side));
	return moved.every((p) => p !== null) && isConvex(moved) ? (moved as unknown as Quadrilateral) : corners;
}

type Segment = readonly [Point, Point];

/** A line inside a side along which there is an edge. */
interface Edge {
	readonly segment: Segment;
	/** From the side, half way along. */
	readonly offset: number;
	readonly support: number;
	readonly lineLike: number;
	/** It runs to a notch of desk at a corner. */
	readonly hinted: boolean;
}

/** The edge of a sheet on top just inside the side from `a` to `b`; the corners next to these are `before` and `after`. */
function innerEdge(
	map: EdgeMap,
	a: Point,
	b: Point,
	before: Point,
	after: Point,
	reach: number
): Segment | null {
	const notches = [notch(map, a, b, before, reach), notch(map, b, a, after, reach)] as const;
	const found = edgesInside(map, a, b, notches, reach);
	return (hintedEdge(found) ?? plainEdge(found))?.segment ?? null;
}

function edgesInside(
	map: EdgeMap,
	a: Point,
	b: Point,
	notches: readonly [number | null, number | null],
	reach: number
): Edge[] {
	const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
	// Clockwise on a screen: the inside is to the right of the direction of travel.
	const nx = -(b[1] - a[1]) / length;
	const ny = (b[0] - a[0]) / length;
	const runsTo = (at: number, deep: number | null) => Boolean(deep) && Math.abs(at - deep!) <= NOTCH_SLACK;
	const found: Edge[] = [];
	for (let turn = -MOST_TURN; turn <= MOST_TURN; turn += TURN_STEP) {
		const rise = (Math.tan((turn * Math.PI) / 180) * length) / 2;
		for (let offset = NEAREST; offset <= reach; offset++) {
			const start = offset - rise;
			const end = offset + rise;
			// Where it would cross the side itself, it is the side of another hypothesis, not an inner edge.
			if (Math.min(start, end) < -1) continue;
			const segment: Segment = [
				[a[0] + nx * start, a[1] + ny * start],
				[b[0] + nx * end, b[1] + ny * end]
			];
			const seen = along(map, segment);
			if (!seen) continue;
			const hinted = runsTo(start, notches[0]) || runsTo(end, notches[1]);
			found.push({ segment, offset, ...seen, hinted });
		}
	}
	return found.sort((p, q) => q.support - p.support);
}

/** The best seen edge that runs to a notch. */
function hintedEdge(found: readonly Edge[]): Edge | null {
	const edges = found.filter((edge) => edge.lineLike < HINTED_LINE);
	const best = edges.find((edge) => edge.hinted);
	if (!best) return null;
	// There is no other such edge, or it is ruling that happens to run to a torn or folded corner.
	const isRuling = edges.some(
		(edge) =>
			edge.offset > APART &&
			Math.abs(edge.offset - best.offset) > APART &&
			edge.support > RULING_SUPPORT * best.support
	);
	return isRuling ? null : best;
}

/** The best seen edge that throws a shadow on other paper, without a notch to speak for it. */
function plainEdge(found: readonly Edge[]): Edge | null {
	const clear = found.filter((edge) => edge.support > LEAST_SUPPORT && edge.lineLike >= ON_DARKER);
	const edges = clear.filter((edge) => edge.lineLike <= DRAWN_LINE);
	const best = edges[0];
	if (!best) return null;
	// Right beside it there is a drawn line that is better seen: this is its flank.
	const isFlank = clear.some(
		(edge) =>
			edge.lineLike > DRAWN_LINE &&
			edge.support > best.support &&
			Math.abs(edge.offset - best.offset) <= FLANK
	);
	// Several of them, one behind the other: ruling so soft that it looks like edges; fainter ones farther in tell as well.
	const isRuling =
		edges.some((edge) => Math.abs(edge.offset - best.offset) > APART) ||
		found.some(
			({ offset, lineLike }) =>
				offset > best.offset + APART && lineLike >= ON_DARKER && lineLike <= DRAWN_LINE
		);
	return isFlank || isRuling ? null : best;
}

/**
 * How far desk shows at the corner `a` when walking from it towards `to`, just inside the side from `a` to `b`, in pixels;
 * 0 when there is paper right up to the corner, null when it cannot be told.
 */
function notch(
	{ width, height, paper }: EdgeMap,
	a: Point,
	b: Point,
	to: Point,
	reach: number
): number | null {
	const unit = (from: Point, end: Point): Point => {
		const length = Math.hypot(end[0] - from[0], end[1] - from[1]);
		return [(end[0] - from[0]) / length, (end[1] - from[1]) / length];
	};
	const along = unit(a, b);
	const inward = unit(a, to);
	const at = (s: number, t: number) => {
		const x = Math.round(a[0] + s * inward[0] + t * along[0] - 0.5);
		const y = Math.round(a[1] + s * inward[1] + t * along[1] - 0.5);
		return x >= 0 && y >= 0 && x < width && y < height ? paper.data[y * width + x]! : null;
	};
	const desk = at(-INSET, INSET);
	const page = at(reach + INSET, INSET + reach / 2);
	if (desk === null || page === null || desk > DARKER * page) return null;
	// What is brighter than the desk beside it, right inside the corner, is paper in a shadow.
	if (desk < SHADED * (at(INSET, INSET) ?? 0)) return 0;
	const limit = (desk + page) / 2;
	for (let s = NEAREST - 1; s <= reach; s++) {
		const value = at(s, INSET);
		if (value === null) return null;
		if (value > limit) return s > NEAREST ? s : 0;
	}
	return null;
}

/**
 * Samples along a line are looked at in this order, so that a few of them already tell of the whole line: every
 * eighth, then those half way between, and so on.
 */
const SPREAD = [0, 4, 2, 6, 1, 5, 3, 7];
/** After so many samples, a line with less support than so many has no edge along it. */
const EARLY = 12;
const EARLY_SUPPORT = 3;
const LATER = 24;
const LATER_SUPPORT = 10;

/**
 * How well an edge is seen along a line, and how much it looks like a drawn line; null where it is not seen along
 * HINTED_SUPPORT of it.
 */
function along(map: EdgeMap, [a, b]: Segment): { support: number; lineLike: number } | null {
	const { width, height, gx, gy } = map;
	const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
	const tx = (b[0] - a[0]) / length;
	const ty = (b[1] - a[1]) / length;
	const [nx, ny] = [-ty, tx];
	const from = Math.round(END * length);
	const samples = Math.ceil((Math.round((1 - END) * length) - from) / 2);
	let support = 0;
	let own = 0;
	let seen = 0;
	let left = samples;
	for (const first of SPREAD) {
		for (let k = first; k < samples; k += SPREAD.length, left--) {
			const x = a[0] + tx * (from + 2 * k);
			const y = a[1] + ty * (from + 2 * k);
			if (!isInside(map, x, y)) continue;
			seen++;
			let e = 0;
			for (let o = -1; o <= 1; o++) {
				const i = ((y + o * ny) | 0) * width + ((x + o * nx) | 0);
				e = Math.max(e, gx[i]! * nx + gy[i]! * ny);
			}
			support += Math.min(1, e / CERTAIN_EDGE);
			own += e;
			if (seen === EARLY && support < EARLY_SUPPORT) return null;
			if (seen === LATER && support < LATER_SUPPORT) return null;
			if (support + left <= HINTED_SUPPORT * seen) return null;
		}
	}
	if (seen < 12 || support <= HINTED_SUPPORT * seen) return null;
	let counter = 0;
	for (let k = 0; k < samples; k++) {
		const x = a[0] + tx * (from + 2 * k);
		const y = a[1] + ty * (from + 2 * k);
		if (!isInside(map, x, y)) continue;
		let back = 0;
		for (let o = 1; o <= OUTSIDE; o++) {
			const px = (x - o * nx) | 0;
			const py = (y - o * ny) | 0;
			if (px < 0 || py < 0 || px >= width || py >= height) continue;
			const i = py * width + px;
			back = Math.max(back, -(gx[i]! * nx + gy[i]! * ny));
		}
		counter += back;
	}
	return { support: support / seen, lineLike: counter / (own + 0.05 * seen) };
}

/** Two pixels from the rim at least: its neighbours are in the map as well. */
function isInside({ width, height }: EdgeMap, x: number, y: number): boolean {
	return x >= 2 && y >= 2 && x < width - 2 && y < height - 2;
}

function meet([a, b]: Segment, [c, d]: Segment): Point | null {
	const determinant = (b[0] - a[0]) * (d[1] - c[1]) - (b[1] - a[1]) * (d[0] - c[0]);
	if (Math.abs(determinant) < 1e-6) return null;
	const t = ((c[0] - a[0]) * (d[1] - c[1]) - (c[1] - a[1]) * (d[0] - c[0])) / determinant;
	return [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])];
}
