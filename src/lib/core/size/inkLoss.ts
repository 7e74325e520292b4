import type { WritingMask } from '../legibility/writingMask';
import { around } from '../raster/around';
import type { Plane } from '../raster/picture';

/** Side of a tile in pixels: about a word at 200 dots an inch. */
const TILE = 64;
/** A tile whose grey levels deviate less than this holds no writing. */
const LEAST_DEVIATION = 8;

/** Fewer pixels of a tile beside writing than this say nothing. */
const LEAST_PIXELS = 60;
/** How far beside a stroke is looked, in pixels of the mask. */
const BESIDE = 2;

/**
 * The pixels at and beside the writing of a page: what ruling and paper do there counts, elsewhere it does not.
 *
 * @param mask writing at half the page's size
 * @returns 1 for such pixels, at the page's full size
 */
export function besideWriting(
	mask: Pick<WritingMask, 'width' | 'height' | 'data'>,
	{ width, height }: Size
): Uint8Array {
	const wide = around(mask.data, mask.width, mask.height, BESIDE);
	const near = new Uint8Array(width * height);
	for (let y = 0; y < height; y++) {
		const row = Math.min(mask.height - 1, y >> 1) * mask.width;
		for (let x = 0; x < width; x++) near[y * width + x] = wide[row + Math.min(mask.width - 1, x >> 1)]!;
	}
	return near;
}

type Size = Pick<Plane, 'width' | 'height'>;

/**
 * How much of the writing is lost between two versions of a page, 0 to 1. In every tile that holds writing, the part of
 * the variance at and beside its strokes that the other version does not explain (one minus the squared correlation): scale and offset of the
 * grey levels do not count, lost strokes and washed-out edges do. The mean over the tiles and that of their worst tenth
 * count the same, so that one lost line is not hidden by a full page.
 *
 * @param near 1 for the pixels that count (see besideWriting)
 * @throws RangeError when the two differ in size
 */
export function inkLoss(before: Plane, after: Plane, near: Uint8Array): number {
	const { width, height } = before;
	if (after.width !== width || after.height !== height) {
		throw new RangeError('The two versions of a page differ in size.');
	}
	const losses: number[] = [];
	for (let y0 = 0; y0 < height; y0 += TILE) {
		for (let x0 = 0; x0 < width; x0 += TILE) {
			const loss = tileLoss(before, after, near, x0, y0);
			if (loss !== null) losses.push(loss);
		}
	}
	if (losses.length === 0) return 0;
	losses.sort((a, b) => b - a);
	const mean = (values: readonly number[]) => values.reduce((sum, v) => sum + v, 0) / values.length;
	return (mean(losses) + mean(losses.slice(0, Math.ceil(losses.length / 10)))) / 2;
}

function tileLoss(before: Plane, after: Plane, near: Uint8Array, x0: number, y0: number): number | null {
	const { width } = before;
	const x1 = Math.min(x0 + TILE, width);
	const y1 = Math.min(y0 + TILE, before.height);
	let [n, a, b, aa, bb, ab] = [0, 0, 0, 0, 0, 0];
	for (let y = y0; y < y1; y++) {
		for (let i = y * width + x0; i < y * width + x1; i++) {
			if (!near[i]) continue;
			n++;
			const p = before.data[i]!;
			const q = after.data[i]!;
			a += p;
			b += q;
			aa += p * p;
			bb += q * q;
			ab += p * q;
		}
	}
	if (n < LEAST_PIXELS) return null;
	const varianceA = aa / n - (a / n) ** 2;
	if (varianceA < LEAST_DEVIATION ** 2) return null;
	const varianceB = bb / n - (b / n) ** 2;
	const covariance = ab / n - (a / n) * (b / n);
	if (varianceB <= 0 || covariance <= 0) return 1;
	return Math.max(0, 1 - covariance ** 2 / (varianceA * varianceB));
}
