import type { Plane } from '../raster/picture';

/** How far from paper towards the page's ink a pixel must be to count as written for certain. */
const CERTAIN = 0.42;

/**
 * Drops ink with nothing dark near it, in place: ruling, squares and writing that shows through from the
 * back are all fainter than the page's own strokes, even where a threshold lets them pass. A faint
 * pixel stays where a certain one is within `reach`, so that strokes keep their thin ends.
 *
 * @param ink 1 for ink, 0 for paper; changed
 * @returns the grey level from which ink counts as certain
 */
export function dropFaint(ink: Uint8Array, { width, height, data }: Plane, reach: number): number {
	const limit = 255 - CERTAIN * (255 - usualInk(ink, data));
	// The distance to the last certain pixel, along rows and then along columns: a square of reach.
	const near = new Uint8Array(ink.length);
	for (let y = 0; y < height; y++) {
		const row = y * width;
		for (let x = 0, since = reach + 1; x < width; x++) {
			since = ink[row + x] && data[row + x]! <= limit ? 0 : since + 1;
			if (since <= reach) near[row + x] = 1;
		}
		for (let x = width - 1, since = reach + 1; x >= 0; x--) {
			since = ink[row + x] && data[row + x]! <= limit ? 0 : since + 1;
			if (since <= reach) near[row + x] = 1;
		}
	}
	const above = new Int32Array(width).fill(reach + 1);
	const keep = new Uint8Array(ink.length);
	for (let y = 0; y < height; y++) {
		for (let x = 0, i = y * width; x < width; x++, i++) {
			above[x] = near[i] ? 0 : above[x]! + 1;
			if (above[x]! <= reach) keep[i] = 1;
		}
	}
	above.fill(reach + 1);
	for (let y = height - 1; y >= 0; y--) {
		for (let x = 0, i = y * width; x < width; x++, i++) {
			above[x] = near[i] ? 0 : above[x]! + 1;
			if (!keep[i] && above[x]! > reach) ink[i] = 0;
		}
	}
	return limit;
}

/** The level that the darkest seventh of the ink is under: ruling may be most of what passed. */
function usualInk(ink: Uint8Array, data: Uint8Array): number {
	const histogram = new Uint32Array(256);
	let total = 0;
	for (let i = 0; i < ink.length; i++) {
		if (ink[i]) {
			histogram[data[i]!]!++;
			total++;
		}
	}
	let seen = 0;
	for (let v = 0; v < 256; v++) {
		seen += histogram[v]!;
		if (seen * 7 > total) return v;
	}
	return 0;
}
