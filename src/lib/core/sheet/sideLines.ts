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
/** A pixel whose gradient stands out less than this from its surroundings does not vote. */
const LEAST_EDGE = 0.7;
/** One very strong pixel must not outvote many faint ones in a row. */
const STRONGEST_VOTE = 2.5;

/**
 * The most voted straight lines for each side of a sheet: a Hough transform (Duda and Hart 1972)
 * that keeps the sign of the gradient, so that the left side of a sheet and its right side are in
 * different families. The borders of the picture are offered too, for sheets that run out of it.
 */
export function sideLines(edges: EdgeMap): SideLines {
	const { width, height, gx, gy } = edges;
	const diagonal = Math.hypot(width, height);
	const rhoBins = Math.ceil((2 * diagonal) / RHO_STEP) + 2;
	// The angle is the direction of the inward normal, a full turn in ANGLE_BINS steps.
	const votes = new Float32Array(ANGLE_BINS * rhoBins);
	const cosines = new Float64Array(ANGLE_BINS);
	const sines = new Float64Array(ANGLE_BINS);
	for (let a = 0; a < ANGLE_BINS; a++) {
		cosines[a] = Math.cos((a * 2 * Math.PI) / ANGLE_BINS);
		sines[a] = Math.sin((a * 2 * Math.PI) / ANGLE_BINS);
	}
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
			for (let d = -3; d <= 3; d++) {
				const a = (middle + d + 2 * ANGLE_BINS) % ANGLE_BINS;
				const rho = (x + 0.5) * cosines[a]! + (y + 0.5) * sines[a]!;
				votes[a * rhoBins + (((rho + diagonal) / RHO_STEP) | 0)]! += weight * (1 - 0.2 * Math.abs(d));
			}
		}
	}

	const lines: Record<Side, SideLine[]> = {
		top: [{ nx: 0, ny: 1, rho: 0, votes: 0, border: true }],
		right: [{ nx: -1, ny: 0, rho: -width, votes: 0, border: true }],
		bottom: [{ nx: 0, ny: -1, rho: -height, votes: 0, border: true }],
		left: [{ nx: 1, ny: 0, rho: 0, votes: 0, border: true }]
	};
	const quarter = ANGLE_BINS / 4;
	const middles: Record<Side, number> = { left: 0, top: quarter, right: 2 * quarter, bottom: 3 * quarter };
	for (const side of Object.keys(middles) as Side[]) {
		lines[side].push(...strongest(votes, rhoBins, middles[side], diagonal, cosines, sines));
	}
	return lines;
}

/** The strongest local maxima whose normal is within an eighth of a turn of `middle`. */
function strongest(
	votes: Float32Array,
	rhoBins: number,
	middle: number,
	diagonal: number,
	cosines: Float64Array,
	sines: Float64Array
): SideLine[] {
	const reach = ANGLE_BINS / 8;
	const peaks: { a: number; r: number; votes: number }[] = [];
	for (let d = -reach; d < reach; d++) {
		const a = (middle + d + ANGLE_BINS) % ANGLE_BINS;
		for (let r = 1; r < rhoBins - 1; r++) {
			const v = votes[a * rhoBins + r]!;
			if (v < 12 || v < votes[a * rhoBins + r - 1]! || v < votes[a * rhoBins + r + 1]!) continue;
			peaks.push({ a, r, votes: v });
		}
	}
	peaks.sort((p, q) => q.votes - p.votes);
	const kept: { a: number; r: number; votes: number }[] = [];
	for (const peak of peaks) {
		if (kept.length >= LINES_A_SIDE) break;
		const near = kept.some((k) => {
			const angle = Math.abs(((peak.a - k.a + 1.5 * ANGLE_BINS) % ANGLE_BINS) - ANGLE_BINS / 2);
			return angle <= 2 && Math.abs(peak.r - k.r) * RHO_STEP <= 4;
		});
		if (!near) kept.push(peak);
	}
	return kept.map(({ a, r, votes }) => ({
		nx: cosines[a]!,
		ny: sines[a]!,
		rho: (r + 0.5) * RHO_STEP - diagonal,
		votes,
		border: false
	}));
}
