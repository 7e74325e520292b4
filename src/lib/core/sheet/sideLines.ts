import { withKernels, type Kernels } from '../kernels/kernels';
import type { EdgeMap } from './edgeMap';

/** Which side of a sheet a line could be: the paper lies on the line's inner, brighter side. */
export type Side = 'top' | 'right' | 'bottom' | 'left';

/** All points with `x * nx + y * ny = rho`; the normal points inward, to the brighter side. */
export interface SideLine {
	readonly nx: number;
	readonly ny: number;
	readonly rho: number;
	/** Votes in the Hough space; 0 for a border of the picture. */
	readonly votes: number;
	readonly border: boolean;
}

export type SideLines = Readonly<Record<Side, readonly SideLine[]>>;

const ANGLE_BINS = 360;
const RHO_STEP = 1.5;
/** Lines kept for each side. More would let every ruled line in; fewer loses white on white. */
const LINES_A_SIDE = 12;
/** Of these, so many lie farther out than all others: ruled lines may be better seen than the side they are within. */
const OUTSIDE = 2;
/** Lines at this distance or less, in pixels, and nearly parallel are one. */
const SAME_LINE = 4;
/** A pixel whose gradient stands out less than this from its surroundings does not vote. */
const LEAST_EDGE = 0.7;
/** A pixel votes for the lines of its own direction and of this many beside it, for these with less weight. */
const ASIDE = 3;
/** One very strong pixel must not outvote many faint ones in a row. */
const STRONGEST_VOTE = 2.5;
/** Less in the Hough space is no line. */
const LEAST_VOTES = 12;

/** The middles of the directions in which the inward normals of the sides point, by eighths of a turn. */
const MIDDLES: Readonly<Record<Side, number>> = { left: 0, top: 2, right: 4, bottom: 6 };

/** What the Hough space shows of a picture's edges. */
export interface LineVotes {
	readonly space: HoughSpace;
	readonly peaks: Peaks;
}

/**
 * The straight lines in an edge map: a Hough transform (Duda and Hart 1972) that keeps the sign of the gradient, so that
 * the left side of a sheet and its right side are in different families.
 */
export function lineVotes(edges: EdgeMap): LineVotes {
	const space = houghSpace(edges.width, edges.height);
	const peaks = withKernels(
		(kernels) => peaksFast(kernels, edges, space),
		() => peaksPlain(edges, space)
	);
	return { space, peaks };
}

/**
 * The most voted lines for each side of a sheet. The borders of the picture are offered too, for sheets that run out of
 * it.
 */
export function sideLines(edges: EdgeMap, votes = lineVotes(edges)): SideLines {
	const { width, height } = edges;
	const lines = families(edges, votes, 0, ANGLE_BINS / 8);
	const border = (nx: number, ny: number, rho: number): SideLine => ({ nx, ny, rho, votes: 0, border: true });
	return {
		top: [border(0, 1, 0), ...lines.top],
		right: [border(-1, 0, -width), ...lines.right],
		bottom: [border(0, -1, -height), ...lines.bottom],
		left: [border(1, 0, 0), ...lines.left]
	};
}

/**
 * The same for a sheet that stands on a corner, where two of its sides are rather top than left or right: what is called
 * top lies at the upper right, and so on clockwise.
 */
export function slantingSideLines(edges: EdgeMap, votes = lineVotes(edges)): SideLines {
	// Not quite an eighth to both sides: what lies level or upright around it, a table or a shelf, has more votes.
	return families(edges, votes, 1, ANGLE_BINS / 12);
}

/**
 * @param eighths by how much of a turn the sides are turned from upright, clockwise
 * @param reach how far from the middle of its family a line's direction may be
 */
function families(edges: EdgeMap, { space, peaks }: LineVotes, eighths: 0 | 1, reach: number): SideLines {
	const middle = (side: Side) => ((MIDDLES[side] + eighths) * ANGLE_BINS) / 8;
	const family = (side: Side) => strongest(peaks, edges, space, middle(side), reach);
	return { top: family('top'), right: family('right'), bottom: family('bottom'), left: family('left') };
}

interface HoughSpace {
	readonly cosines: Float64Array;
	readonly sines: Float64Array;
	readonly diagonal: number;
	/** Distances told apart; the space has a row of them for each angle. */
	readonly bins: number;
}

/** The angle is the direction of the inward normal, a full turn in ANGLE_BINS steps. */
function houghSpace(width: number, height: number): HoughSpace {
	const diagonal = Math.hypot(width, height);
	const angles = Float64Array.from({ length: ANGLE_BINS }, (_, a) => (a * 2 * Math.PI) / ANGLE_BINS);
	return {
		cosines: angles.map(Math.cos),
		sines: angles.map(Math.sin),
		diagonal,
		bins: Math.ceil((2 * diagonal) / RHO_STEP) + 2
	};
}

/** A local maximum of the votes along the distance: the bin it is in, counted through, and its votes. */
interface Peaks {
	readonly at: Int32Array;
	readonly votes: Float32Array;
}

function peaksFast(kernels: Kernels, { width, height, gx, gy }: EdgeMap, space: HoughSpace): Peaks {
	const { cosines, sines, diagonal, bins } = space;
	const [x, y] = [kernels.put(gx), kernels.put(gy)];
	// Some more than a full turn, so that a pixel's directions are a row of them.
	const wrapped = (values: Float64Array) =>
		Float32Array.from({ length: ANGLE_BINS + 8 }, (_, i) => values[(i - ASIDE + ANGLE_BINS) % ANGLE_BINS]!);
	const directions = kernels.put(Float32Array.from([...wrapped(cosines), ...wrapped(sines)]));
	const size = ANGLE_BINS * bins;
	const votes = kernels.cleared(4 * size);
	const out = kernels.room(4 * size);
	const { run } = kernels;
	run.vote(
		x,
		y,
		width,
		height,
		LEAST_EDGE,
		STRONGEST_VOTE,
		directions,
		ANGLE_BINS,
		diagonal,
		RHO_STEP,
		bins,
		votes
	);
	const at = kernels.integers(out, run.peaks(votes, 1, size - 2, LEAST_VOTES, out));
	const all = kernels.floats(votes, size);
	return { at, votes: Float32Array.from(at, (i) => all[i]!) };
}

function peaksPlain(
	{ width, height, gx, gy }: EdgeMap,
	{ cosines, sines, diagonal, bins }: HoughSpace
): Peaks {
	const votes = new Float32Array(ANGLE_BINS * bins);
	for (let y = 2; y < height - 2; y++) {
		for (let x = 2; x < width - 2; x++) {
			const i = y * width + x;
			const dx = gx[i]!;
			const dy = gy[i]!;
			const m2 = dx * dx + dy * dy;
			if (m2 < LEAST_EDGE * LEAST_EDGE) continue;
			// Only the crest of an edge votes: stronger than its neighbours across the edge.
			const step = Math.abs(dx) > Math.abs(dy) ? 1 : width;
			const before = gx[i - step]! ** 2 + gy[i - step]! ** 2;
			const after = gx[i + step]! ** 2 + gy[i + step]! ** 2;
			if (before > m2 || after > m2) continue;
			const weight = Math.min(Math.sqrt(m2), STRONGEST_VOTE);
			const middle = Math.round((Math.atan2(dy, dx) / (2 * Math.PI)) * ANGLE_BINS);
			for (let d = -ASIDE; d <= ASIDE; d++) {
				const a = (middle + d + 2 * ANGLE_BINS) % ANGLE_BINS;
				const rho = (x + 0.5) * cosines[a]! + (y + 0.5) * sines[a]!;
				votes[a * bins + (((rho + diagonal) / RHO_STEP) | 0)]! += weight * (1 - 0.2 * Math.abs(d));
			}
		}
	}
	const at: number[] = [];
	for (let i = 1; i < votes.length - 1; i++) {
		const v = votes[i]!;
		if (v >= LEAST_VOTES && v >= votes[i - 1]! && v >= votes[i + 1]!) at.push(i);
	}
	return { at: Int32Array.from(at), votes: Float32Array.from(at, (i) => votes[i]!) };
}

/** The strongest peaks whose normal is within `reach` of `middle`, each a line of its own. */
function strongest(
	peaks: Peaks,
	{ width, height }: EdgeMap,
	{ cosines, sines, diagonal, bins }: HoughSpace,
	middle: number,
	reach: number
): SideLine[] {
	const near: number[] = [];
	for (let n = 0; n < peaks.at.length; n++) {
		const turn = Math.floor(peaks.at[n]! / bins) - middle + reach + ANGLE_BINS;
		if (turn % ANGLE_BINS < 2 * reach) near.push(n);
	}
	// Sorted as numbers, which is quick: the votes, and behind the point which peak it is.
	const count = peaks.at.length;
	const sorted = Float64Array.from(near, (n) => Math.round(64 * peaks.votes[n]!) + n / count).sort();
	const kept: { a: number; r: number; votes: number; out: number }[] = [];
	let outermost = -Infinity;
	for (let n = sorted.length - 1; n >= 0 && kept.length < LINES_A_SIDE; n--) {
		const peakNumber = Math.round((sorted[n]! % 1) * count);
		const at = peaks.at[peakNumber]!;
		const a = Math.floor(at / bins);
		const r = at - a * bins;
		// How far it lies from the middle of the picture.
		const out = (cosines[a]! * width + sines[a]! * height) / 2 - r * RHO_STEP;
		if (kept.length >= LINES_A_SIDE - OUTSIDE && out < outermost + SAME_LINE) continue;
		const near = kept.some((k) => {
			const angle = Math.abs(((a - k.a + 1.5 * ANGLE_BINS) % ANGLE_BINS) - ANGLE_BINS / 2);
			return angle <= 2 && Math.abs(r - k.r) * RHO_STEP <= SAME_LINE;
		});
		if (near) continue;
		kept.push({ a, r, votes: peaks.votes[peakNumber]!, out });
		if (kept.length <= LINES_A_SIDE - OUTSIDE) outermost = Math.max(outermost, out);
	}
	return kept.map(({ a, r, votes }) => ({
		nx: cosines[a]!,
		ny: sines[a]!,
		rho: (r + 0.5) * RHO_STEP - diagonal,
		votes,
		border: false
	}));
}
