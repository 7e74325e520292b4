import { median } from '../raster/percentile';
import type { Picture } from '../raster/picture';
import { acrossEdge, type EdgeProfile } from './acrossEdge';
import type { EdgeMap } from './edgeMap';
import { isConvex, type Point, type Quadrilateral } from './geometry';

/** How far inside a side another sheet's edge is looked for, as a fraction of the outline's shorter side. */
const REACH = 0.13;
/** Edges closer than this to the side, in pixels of the edge map, are the side. */
const NEAREST = 3;
/** Sheets lie turned against each other by up to this, in degrees, in steps. */
const MOST_TURN = 4.5;
const TURN_STEP = 0.5;
/** The ends of a side are left out: there the other sides' shadows run in. */
const END = 0.08;
/** A normalised gradient this strong is an edge without doubt. */
const CERTAIN_EDGE = 1.6;
/** An edge must be there along this much of its length. */
const LEAST_SUPPORT = 0.6;
/** Of edges whose ends are within so many pixels of each other the best seen is looked at, and of each side so many. */
const APART = 4;
const LOOKED_AT = 8;
/** The edge is straight at this share of the places along it. */
const STRAIGHT = 0.8;
/** What lies beyond its shadow is as bright as the sheet on top, within these shares: paper, and no desk. */
const PAPER_BEYOND = [0.8, 1.12] as const;
/** The shadow is brighter than this share of the paper: something drawn may be darker. */
const DARKEST_SHADOW = 0.4;
/** It gets brighter again by this much away from the edge: without that, it may be a coloured band. */
const LEAST_RISE = 0.04;
/** A drawn line is as dark on one side of its middle as on the other; a shadow reaches this many steps, outward only. */
const SHADOW_FROM = 3;
const SHADOW_TO = 8;
/** It is so much darker there than the same distance on the inner side, as a share of the paper and of both. */
const LEAST_SHADOW = 0.017;
const ONE_SIDED = 0.3;

/**
 * A sheet often lies on others of which a strip shows. Then the strongest outline takes in the strip. This looks
 * just inside each side for the edge of a sheet on top: straight, along the whole side, with a shadow on its outer side
 * that ends on other paper. Drawn lines, which are the same on both sides, are told from it by what is seen across
 * them in the picture itself. Returns the outline with such sides moved in, or the same outline.
 *
 * @param corners in pixels of the edge map, which was made of the picture
 * @param step pixels of the picture from one sample to the next
 */
export function sheetOnTop(
	picture: Picture,
	edges: EdgeMap,
	corners: Quadrilateral,
	step: number
): Quadrilateral {
	const lengths = corners.map((a, i) => {
		const b = corners[(i + 1) % 4]!;
		return Math.hypot(b[0] - a[0], b[1] - a[1]);
	});
	const reach = REACH * Math.min(...lengths);
	const sides = corners.map((a, i): Segment => {
		const b = corners[(i + 1) % 4]!;
		return innerEdge(picture, edges, [a, b], reach, step) ?? [a, b];
	});
	if (sides.every((s, i) => s[0] === corners[i])) return corners;
	const moved = sides.map((side, i) => meet(sides[(i + 3) % 4]!, side));
	return moved.every((p) => p !== null) && isConvex(moved) ? (moved as unknown as Quadrilateral) : corners;
}

type Segment = readonly [Point, Point];

/** A line inside a side along which there is an edge. */
interface Edge {
	readonly segment: Segment;
	/** Of its two ends from those of the side, inward. */
	readonly start: number;
	readonly end: number;
	readonly support: number;
}

/** The edge of a sheet on top just inside a side; of several sheets, of the uppermost one. */
function innerEdge(
	picture: Picture,
	map: EdgeMap,
	side: Segment,
	reach: number,
	step: number
): Segment | null {
	const sx = picture.width / map.width;
	const sy = picture.height / map.height;
	let best: { segment: Segment; offset: number } | null = null;
	for (const { segment } of clearest(edgesInside(map, side, reach))) {
		const [a, b] = segment.map(([x, y]): Point => [x * sx, y * sy]);
		const seen = acrossEdge(picture, [a!, b!], step);
		if (!seen) continue;
		const found = seen.segment.map(([x, y]): Point => [x / sx, y / sy]) as unknown as Segment;
		const offset = offsetFrom(side, found);
		if (offset < Math.max(NEAREST - 0.5, best?.offset ?? 0)) continue;
		if (!isAboveOther(seen, (offset * (sx + sy)) / 2 / step)) continue;
		const outer = side.map(([x, y]): Point => [x * sx, y * sy]) as unknown as Segment;
		if (hasEvenShadow(picture, seen.segment, outer, step)) best = { segment: found, offset };
	}
	return best?.segment ?? null;
}

/**
 * Whether what is seen across an edge is a sheet on top of another.
 *
 * @param room steps from the edge to the side of the outline, outside of which there is desk
 */
function isAboveOther({ profile, far, straight }: EdgeProfile, room: number): boolean {
	const beyond = Math.min(far, Math.floor(room) - 2);
	if (straight < STRAIGHT || beyond < SHADOW_FROM + 3) return false;
	const sheet = Math.max(...profile.subarray(far + 1));
	const shares = profile.map((v) => v / sheet);
	/** The median from one step to another, counted from the edge inward. */
	const usual = (from: number, to: number) => median(shares.slice(far + from, far + to + 1));
	const paper = usual(-beyond, -beyond + 2);
	let darkest = 0;
	for (let k = -4; k <= 1; k++) if (shares[far + k]! < shares[far + darkest]!) darkest = k;
	const least = shares[far + darkest]!;
	if (paper < PAPER_BEYOND[0] || paper > PAPER_BEYOND[1]) return false;
	if (least < DARKEST_SHADOW || paper - least < LEAST_RISE) return false;
	// A shadow only gets lighter away from the edge; a second drawn line does not.
	let lightest = least;
	for (let k = darkest - 1; k >= -beyond; k--) {
		lightest = Math.max(lightest, shares[far + k]!);
		if (lightest - shares[far + k]! > LEAST_RISE) return false;
	}
	const to = Math.min(SHADOW_TO, beyond + darkest);
	const outside = 1 - usual(darkest - to, darkest - SHADOW_FROM);
	const inside = 1 - usual(darkest + SHADOW_FROM, darkest + to);
	return outside - inside > LEAST_SHADOW && outside - inside > ONE_SIDED * (outside + inside);
}

/** Places along an edge at which its shadow is looked at. */
const PLACES = 240;
/** Steps from an edge to where its shadow is looked at, and to where the paper beyond is. */
const IN_SHADOW = [0, 4] as const;
const BEYOND_SHADOW = [SHADOW_TO, SHADOW_TO + 4] as const;
/** At all but a tenth of the places a shadow is this deep, as a share of its usual depth. */
const EVEN = 0.5;

/**
 * Whether what is dark outside of an edge runs all along it, as the shadow of a sheet does. A line of writing or print has
 * gaps, between its words and its letters.
 *
 * @param outer the side of the outline beyond
 */
function hasEvenShadow(
	{ width, height, channels, data }: Picture,
	[c, d]: Segment,
	[a, b]: Segment,
	step: number
) {
	const depths: number[] = [];
	for (let i = 0; i < PLACES; i++) {
		const t = END / 2 + ((1 - END) * (i + 0.5)) / PLACES;
		const [ex, ey] = [c[0] + t * (d[0] - c[0]), c[1] + t * (d[1] - c[1])];
		const [ox, oy] = [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])];
		const far = Math.hypot(ox - ex, oy - ey);
		if (far < (BEYOND_SHADOW[1] + 2) * step) continue;
		const light = ([from, to]: readonly [number, number]) => {
			let sum = 0;
			for (let k = from; k < to; k++) {
				const x = Math.floor(ex + ((k * step) / far) * (ox - ex));
				const y = Math.floor(ey + ((k * step) / far) * (oy - ey));
				const p =
					(Math.min(height - 1, Math.max(0, y)) * width + Math.min(width - 1, Math.max(0, x))) * channels;
				sum += 0.299 * data[p]! + 0.587 * data[p + 1]! + 0.114 * data[p + 2]!;
			}
			return sum / (to - from);
		};
		depths.push(1 - light(IN_SHADOW) / Math.max(1, light(BEYOND_SHADOW)));
	}
	// A strip too narrow to see past the shadow has no room for a line of writing either.
	if (depths.length < PLACES / 2) return true;
	depths.sort((p, q) => p - q);
	return depths[Math.floor(depths.length / 10)]! >= EVEN * depths[depths.length >> 1]!;
}

/** The best seen edges, each a few pixels from the others. */
function clearest(found: readonly Edge[]): Edge[] {
	const kept: Edge[] = [];
	for (const edge of [...found].sort((p, q) => q.support - p.support)) {
		const isNew = ({ start, end }: Edge) =>
			Math.max(Math.abs(start - edge.start), Math.abs(end - edge.end)) > APART;
		if (kept.every(isNew)) kept.push(edge);
		if (kept.length === LOOKED_AT) break;
	}
	return kept;
}

function edgesInside(map: EdgeMap, [a, b]: Segment, reach: number): Edge[] {
	const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
	// Clockwise on a screen: the inside is to the right of the direction of travel.
	const nx = -(b[1] - a[1]) / length;
	const ny = (b[0] - a[0]) / length;
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
			const support = along(map, segment);
			if (support !== null) found.push({ segment, start, end, support });
		}
	}
	return found;
}

/** How far a line lies inside a side, half way along. */
function offsetFrom([a, b]: Segment, [c, d]: Segment): number {
	const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
	const x = (c[0] + d[0] - a[0] - b[0]) / 2;
	const y = (c[1] + d[1] - a[1] - b[1]) / 2;
	return (y * (b[0] - a[0]) - x * (b[1] - a[1])) / length;
}

/**
 * Samples along a line are looked at in this order, so that a few of them already tell of the whole line: every
 * eighth, then those half way between, and so on.
 */
const SPREAD = [0, 4, 2, 6, 1, 5, 3, 7];
/** After so many samples, a line with less support than so many has no edge along it. */
const EARLY = 8;
const EARLY_SUPPORT = 2;
const LATER = 24;
const LATER_SUPPORT = 10;

/** How well an edge is seen along a line, 0 to 1; null where it is not along LEAST_SUPPORT of it. */
function along({ width, height, gx, gy }: EdgeMap, [a, b]: Segment): number | null {
	const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
	const tx = (b[0] - a[0]) / length;
	const ty = (b[1] - a[1]) / length;
	const [nx, ny] = [-ty, tx];
	const from = Math.round(END * length);
	const samples = Math.ceil((Math.round((1 - END) * length) - from) / 2);
	let support = 0;
	let seen = 0;
	let left = samples;
	for (const first of SPREAD) {
		for (let k = first; k < samples; k += SPREAD.length, left--) {
			const x = a[0] + tx * (from + 2 * k);
			const y = a[1] + ty * (from + 2 * k);
			if (!(x >= 2 && y >= 2 && x < width - 2 && y < height - 2)) continue;
			seen++;
			let e = 0;
			for (let o = -1; o <= 1; o++) {
				const i = ((y + o * ny) | 0) * width + ((x + o * nx) | 0);
				e = Math.max(e, gx[i]! * nx + gy[i]! * ny);
			}
			support += Math.min(1, e / CERTAIN_EDGE);
			if (seen === EARLY && support < EARLY_SUPPORT) return null;
			if (seen === LATER && support < LATER_SUPPORT) return null;
			if (support + left <= LEAST_SUPPORT * seen) return null;
		}
	}
	return seen < 12 || support <= LEAST_SUPPORT * seen ? null : support / seen;
}

function meet([a, b]: Segment, [c, d]: Segment): Point | null {
	const determinant = (b[0] - a[0]) * (d[1] - c[1]) - (b[1] - a[1]) * (d[0] - c[0]);
	if (Math.abs(determinant) < 1e-6) return null;
	const t = ((c[0] - a[0]) * (d[1] - c[1]) - (c[1] - a[1]) * (d[0] - c[0])) / determinant;
	return [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])];
}
