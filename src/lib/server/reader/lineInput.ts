import type { Picture } from '../../core/raster/picture';
import { flatten } from '../../core/sheet/flatten';
import type { Quadrilateral } from '../../core/sheet/geometry';

/** Height in pixels at which the recogniser sees a line. */
export const LINE_HEIGHT = 48;

/**
 * Cuts a line out of a picture as the recogniser wants it: `3 x 48 x width`, plane by plane, -1 to 1. A line that is
 * shorter than `width` is followed by grey.
 *
 * @param corners the line's box, clockwise from where its first letter's top left is
 * @param used columns that the line itself takes
 */
export function lineInput(
	picture: Picture,
	corners: Quadrilateral,
	used: number,
	width: number
): Float32Array {
	const { data } = flatten(picture, corners, used, LINE_HEIGHT);
	const plane = LINE_HEIGHT * width;
	const out = new Float32Array(3 * plane);
	for (let y = 0; y < LINE_HEIGHT; y++) {
		for (let x = 0; x < used; x++) {
			const p = (y * used + x) * 3;
			const q = y * width + x;
			// The recogniser was trained on pictures with blue first.
			out[q] = data[p + 2]! / 127.5 - 1;
			out[q + plane] = data[p + 1]! / 127.5 - 1;
			out[q + 2 * plane] = data[p]! / 127.5 - 1;
		}
	}
	return out;
}

/** Columns that a box takes at LINE_HEIGHT. */
export function columnsOf([a, b, c, d]: Quadrilateral): number {
	const across = Math.max(Math.hypot(b[0] - a[0], b[1] - a[1]), Math.hypot(c[0] - d[0], c[1] - d[1]));
	const down = Math.max(Math.hypot(d[0] - a[0], d[1] - a[1]), Math.hypot(c[0] - b[0], c[1] - b[1]), 1);
	return Math.max(8, Math.round((across / down) * LINE_HEIGHT));
}
