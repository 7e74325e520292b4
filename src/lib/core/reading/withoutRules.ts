import { RIM, type WritingMask } from '../legibility/writingMask';
import type { Plane } from '../raster/picture';

/** What is kept around a mark, in pixels: the soft edge of its stroke. */
const EDGE = 1;

/**
 * A page as lines of writing are looked for on it: its rules and squares are paper. Seen small, they hang one line of
 * writing together with the next. All that is marked stays, also what is too faint to be ink, and the page's rim, where
 * rules are not told. A page without rules stays as it is.
 *
 * @param page evenly lit, at about 100 dots an inch
 * @param writing what is marked on it
 * @param isInk whether there is ink at a pixel, which the marks may lack
 */
export function withoutRules(
	page: Plane,
	{ ruling, marks }: Pick<WritingMask, 'ruling' | 'marks'>,
	isInk: (x: number, y: number) => boolean
): Plane {
	if (ruling === 0) return page;
	const { width, height } = page;
	const rim = Math.ceil(RIM * Math.min(width, height));
	const data = new Uint8Array(page.data.length).fill(255);
	const keep = (from: number, to: number) => data.set(page.data.subarray(from, to), from);
	for (let y = 0, i = 0; y < height; y++) {
		const row = y * width;
		if (y < rim || y >= height - rim) keep(row, row + width);
		keep(row, row + rim);
		keep(row + width - rim, row + width);
		for (let x = 0; x < width; x++, i++) {
			if (!marks[i] && !isInk(x, y)) continue;
			for (let v = Math.max(0, y - EDGE); v <= Math.min(height - 1, y + EDGE); v++) {
				const end = v * width + Math.min(width - 1, x + EDGE);
				for (let k = v * width + Math.max(0, x - EDGE); k <= end; k++) data[k] = page.data[k]!;
			}
		}
	}
	return { width, height, data };
}
