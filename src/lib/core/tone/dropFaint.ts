import type { Plane } from '../raster/picture';

/** What counts as written for certain. */
export interface CertainInk {
	/** How far from paper towards the page's own ink a pixel must be, 0 to 1. */
	readonly level: number;
	/** The darkest one part in so many of what passed is the page's own ink; the rest may be ruling. */
	readonly darkest: number;
}

const USUAL: CertainInk = { level: 0.42, darkest: 7 };

/**
 * Drops ink with nothing dark near it, in place: ruling, squares and writing that shows through from the
 * back are all fainter than the page's own strokes, even where a threshold lets them pass. A faint
 * pixel stays where a certain one is within about `reach`, so that strokes keep their thin ends.
 *
 * @param ink 1 for ink, 0 for paper; changed
 * @returns the grey level from which ink counts as certain
 */
export function dropFaint(
	ink: Uint8Array,
	{ width, height, data }: Plane,
	reach: number,
	{ level, darkest }: CertainInk = USUAL
): number {
	const limit = 255 - level * (255 - usualInk(ink, data, darkest));
	// Cells of the grid with a certain pixel in them, and their neighbours: a reach of one to two cells.
	const cell = Math.max(1, Math.round(0.7 * reach));
	const columns = Math.ceil(width / cell) + 2;
	const rows = Math.ceil(height / cell) + 2;
	const certain = new Uint8Array(columns * rows);
	for (let y = 0; y < height; y++) {
		const row = (((y / cell) | 0) + 1) * columns + 1;
		for (let x = 0, i = y * width; x < width; x++, i++) {
			if (ink[i] !== 0 && data[i]! <= limit) certain[row + ((x / cell) | 0)] = 1;
		}
	}
	const near = new Uint8Array(columns * rows);
	for (let i = columns + 1; i < near.length - columns - 1; i++) {
		near[i] =
			certain[i - columns - 1]! |
			certain[i - columns]! |
			certain[i - columns + 1]! |
			certain[i - 1]! |
			certain[i]! |
			certain[i + 1]! |
			certain[i + columns - 1]! |
			certain[i + columns]! |
			certain[i + columns + 1]!;
	}
	for (let y = 0; y < height; y++) {
		const row = (((y / cell) | 0) + 1) * columns + 1;
		for (let x = 0, i = y * width; x < width; x++, i++) {
			if (ink[i] !== 0 && near[row + ((x / cell) | 0)] === 0) ink[i] = 0;
		}
	}
	return limit;
}

/** The level that the darkest part of the ink is under: ruling may be most of what passed. */
function usualInk(ink: Uint8Array, data: Uint8Array, darkest: number): number {
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
		if (seen * darkest > total) return v;
	}
	return 0;
}
