import { countInk } from '../raster/below';
import type { FloatPlane } from '../raster/picture';
import type { WritingMask } from './writingMask';

/**
 * Writing less what lies where filled areas end: seen as if fills were shadow, their rims are strokes, but no pen's, and
 * dark on one side only, as what a moving camera drew out.
 *
 * @param rims in blocks of the page, more than 0 where a fill ends (see `findFills`)
 */
export function withoutRims(writing: WritingMask, rims: FloatPlane): WritingMask {
	const { width, height } = writing;
	const data = writing.data.slice();
	const column = Int32Array.from({ length: width }, (_, x) => Math.floor((x * rims.width) / width));
	for (let y = 0; y < height; y++) {
		const row = Math.floor((y * rims.height) / height) * rims.width;
		for (let x = 0; x < width; x++) if (rims.data[row + column[x]!]! > 0) data[y * width + x] = 0;
	}
	return { ...writing, data, coverage: countInk(data) / data.length };
}
