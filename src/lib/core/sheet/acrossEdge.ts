import type { Picture } from '../raster/picture';
import type { Point } from './geometry';
import { robustLine } from './robustLine';

/** Places along the line at which it is looked across. */
const PLACES = 60;
/** The ends are left out: dog-ears and other sides' shadows are there. */
const END = 0.06;
/** The edge is looked for this far from the line on both sides, in steps. */
const REACH = 7;
/** The profile goes this far from the edge, in steps. */
const FAR = 12;
/** Samples beside each other along the line that are averaged, on both sides. */
const BESIDE = 1;
/** Steps within which a place belongs to the fitted line. */
const NEAR = 1.3;
/** The level of the inside is taken between these steps behind the edge. */
const INSIDE = [2, 8] as const;

/** How bright it is across a straight edge. */
export interface EdgeProfile {
	/** Ends of the edge itself, in pixels: the line moved to where it rises most steeply towards the inside. */
	readonly segment: readonly [Point, Point];
	/** Share of the places along it at which the steepest rise lies on that line. */
	readonly straight: number;
	/**
	 * Medians along the edge of the brightness from `far` steps outside to `far` steps inside, as shares of the
	 * brightness right behind the edge at the same place.
	 */
	readonly profile: Float64Array;
	readonly far: number;
}

/**
 * Looks across a line along all of it: the medians of many places show a step or a shadow of a few grey levels that
 * grain and writing would hide.
 *
 * @param segment ends of the line, in pixels; the inside is to the right of its direction
 * @param step pixels from one sample to the next
 * @returns null where too little of the line lies inside the picture, or nothing straight lies along it
 */
export function acrossEdge(
	picture: Picture,
	[a, b]: readonly [Point, Point],
	step: number
): EdgeProfile | null {
	const { width, height, channels, data } = picture;
	const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
	const nx = -(b[1] - a[1]) / length;
	const ny = (b[0] - a[0]) / length;
	const half = REACH + FAR;
	const rows: Float64Array[] = [];
	const along: number[] = [];
	const offsets: number[] = [];
	const weights: number[] = [];
	const margin = (half + BESIDE + 1) * step;
	for (let s = 0; s < PLACES; s++) {
		const t = END + ((1 - 2 * END) * s) / (PLACES - 1);
		const x = a[0] + t * (b[0] - a[0]);
		const y = a[1] + t * (b[1] - a[1]);
		const reachX = Math.abs(nx) * margin + Math.abs(ny) * margin;
		const reachY = Math.abs(ny) * margin + Math.abs(nx) * margin;
		if (x < reachX || y < reachY || x >= width - reachX || y >= height - reachY) continue;
		const row = new Float64Array(2 * half + 1);
		for (let k = -half; k <= half; k++) {
			let sum = 0;
			for (let j = -BESIDE; j <= BESIDE; j++) {
				const px = (x + k * step * nx + j * step * ny) | 0;
				const py = (y + k * step * ny - j * step * nx) | 0;
				const p = (py * width + px) * channels;
				sum += 77 * data[p]! + 150 * data[p + 1]! + 29 * data[p + 2]!;
			}
			row[k + half] = sum;
		}
		let steepest = 0;
		let at = 0;
		for (let k = half - REACH; k <= half + REACH; k++) {
			const rise = row[k + 1]! - row[k - 1]!;
			if (rise > steepest) [steepest, at] = [rise, k - half];
		}
		rows.push(row);
		along.push(t);
		offsets.push(at);
		weights.push(1);
	}
	const line = along.length < PLACES / 3 ? null : robustLine(along, offsets, weights);
	if (!line) return null;
	const on = along.map((t) => line.start + line.slope * t);
	const straight = on.filter((o, i) => Math.abs(o - offsets[i]!) < NEAR).length / on.length;
	const centres = on.map((o) => half + Math.max(-REACH, Math.min(REACH, Math.round(o))));
	const levels = rows.map((row, i) =>
		median(row.slice(centres[i]! + INSIDE[0], centres[i]! + INSIDE[1] + 1))
	);
	const profile = new Float64Array(2 * FAR + 1);
	const column = new Float64Array(rows.length);
	for (let k = -FAR; k <= FAR; k++) {
		rows.forEach((row, i) => (column[i] = row[centres[i]! + k]! / Math.max(1, levels[i]!)));
		profile[k + FAR] = median(column);
	}
	const moved = (p: Point, t: number): Point => {
		const o = (line.start + line.slope * t) * step;
		return [p[0] + o * nx, p[1] + o * ny];
	};
	return { segment: [moved(a, 0), moved(b, 1)], straight, profile, far: FAR };
}

/** Sorts in place. */
function median(values: Float64Array): number {
	return values.sort()[values.length >> 1]!;
}
