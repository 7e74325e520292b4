import { RIM, type WritingMask } from '../legibility/writingMask';
import type { Plane } from '../raster/picture';

/** What is kept around a mark, in pixels at half the size: the soft edge of its stroke. */
const EDGE = 1;

/**
 * A page as lines of writing are looked for on it: its rules and squares are paper. Seen small, they hang one line of
 * writing together with the next. All that is marked stays, also what is too faint to be ink, and the page's rim, where
 * rules are not told. A page without rules stays as it is.
 *
 * @param half the page at half its size
 * @param ink for every pixel of the page in full size, 0 where there is no ink
 * @param writing what is marked, at half the size
 */
export function withoutRules(
	half: Plane,
	ink: { readonly labels: ArrayLike<number>; readonly width: number },
	{ ruling, marks }: Pick<WritingMask, 'ruling' | 'marks'>
): Plane {
	if (ruling === 0) return half;
	const { width, height } = half;
	const rim = Math.ceil(RIM * Math.min(width, height));
	const data = new Uint8Array(half.data.length).fill(255);
	const keep = (from: number, to: number) => data.set(half.data.subarray(from, to), from);
	for (let y = 0, i = 0; y < height; y++) {
		const row = y * width;
		if (y < rim || y >= height - rim) keep(row, row + width);
		keep(row, row + rim);
		keep(row + width - rim, row + width);
		for (let x = 0; x < width; x++, i++) {
			if (!marks[i] && !isInk(ink, x, y)) continue;
			for (let v = Math.max(0, y - EDGE); v <= Math.min(height - 1, y + EDGE); v++) {
				const end = v * width + Math.min(width - 1, x + EDGE);
				for (let k = v * width + Math.max(0, x - EDGE); k <= end; k++) data[k] = half.data[k]!;
			}
		}
	}
	return { width, height, data };
}

/** Whether any of the four pixels is ink of which one at half the size is made. */
function isInk(
	{ labels, width }: { readonly labels: ArrayLike<number>; readonly width: number },
	x: number,
	y: number
): boolean {
	const i = 2 * y * width + 2 * x;
	return !!(labels[i] || labels[i + 1] || labels[i + width] || labels[i + width + 1]);
}
