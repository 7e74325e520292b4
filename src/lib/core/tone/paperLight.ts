import { boxBlur } from '../raster/boxBlur';
import { closing } from '../raster/greyMorphology';
import { percentile } from '../raster/percentile';
import type { FloatPlane, Picture } from '../raster/picture';

/** The light on the bare paper, at low resolution: what a blank sheet would show, 0 to 255. */
export interface PaperLight {
	readonly red: FloatPlane;
	readonly green: FloatPlane;
	readonly blue: FloatPlane;
}

/** Blocks along the longer side: about 2 mm of an A4 page, so that hard shadows are followed. */
const BLOCKS = 144;
/** Dark patches up to this many blocks on both sides are ink, larger ones shadow. */
const INK_RADIUS = 3;

/**
 * Estimates the lighting of a flattened page. In each block the paper is the brighter part of the
 * pixels; blocks filled with ink are bridged by a closing; the result is smoothed just enough to
 * hide the blocks.
 */
export function paperLight({ width, height, channels, data }: Picture): PaperLight {
	const block = Math.max(4, Math.round(Math.max(width, height) / BLOCKS));
	const columns = Math.ceil(width / block);
	const rows = Math.ceil(height / block);
	const planes = [0, 1, 2].map(() => new Float32Array(columns * rows));
	// Four grey levels a bin: the histogram is read twice for each of some 15,000 blocks.
	const histogram = new Uint32Array(64);
	// Some 36 samples of each block tell its paper as well as all of them.
	const step = Math.max(1, Math.floor(block / 6));
	for (let by = 0; by < rows; by++) {
		for (let bx = 0; bx < columns; bx++) {
			const x0 = bx * block;
			const y0 = by * block;
			const x1 = Math.min(x0 + block, width);
			const y1 = Math.min(y0 + block, height);
			histogram.fill(0);
			for (let y = y0; y < y1; y += step) {
				for (let x = x0; x < x1; x += step) histogram[data[(y * width + x) * channels + 1]! >> 2]!++;
			}
			const low = percentile(histogram, 0.6) * 4;
			const high = percentile(histogram, 0.97) * 4 + 3;
			let r = 0;
			let g = 0;
			let b = 0;
			let count = 0;
			for (let y = y0; y < y1; y += step) {
				for (let x = x0; x < x1; x += step) {
					const p = (y * width + x) * channels;
					if (data[p + 1]! < low || data[p + 1]! > high) continue;
					r += data[p]!;
					g += data[p + 1]!;
					b += data[p + 2]!;
					count++;
				}
			}
			const at = by * columns + bx;
			planes[0]![at] = r / Math.max(1, count);
			planes[1]![at] = g / Math.max(1, count);
			planes[2]![at] = b / Math.max(1, count);
		}
	}
	const [red, green, blue] = planes.map((plane) =>
		boxBlur(closing({ width: columns, height: rows, data: plane }, INK_RADIUS), 1)
	);
	return { red: red!, green: green!, blue: blue! };
}
