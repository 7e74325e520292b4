import type { Plane } from '../raster/picture';

/** Black and white keeps this much of the writing of a page in firm ink; below it, strokes break up. */
export const KEEPS = 0.93;

/**
 * True when in black and white there is ink at a pixel of writing or right beside it: the rim of a stroke may fall to
 * either side.
 *
 * @param binary the page in black and white: 0 for ink
 * @param x in pixels of the page at half its size, not at its edge
 */
export function isKept({ width, data }: Plane, x: number, y: number): boolean {
	const i = 2 * (y * width + x);
	for (let v = -1; v <= 2; v++) {
		for (let u = -1; u <= 2; u++) if (data[i + v * width + u] === 0) return true;
	}
	return false;
}
