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

/** Blocks along the longer side: about 2 mm of an A4 page. */
const BLOCKS = 144;
/** Dark patches up to this many blocks on both sides are ink, larger ones shadow. */
const INK_RADIUS = 3;
/** Light that differs by this factor between neighbouring blocks is the edge of a hard shadow. */
const HARD_EDGE = 1.13;
/** There, blocks are this many times smaller, and so is the largest patch that counts as ink. */
const FINER = 3;
const FINE_INK_RADIUS = 3;
/** How far around an edge its light is taken finely, in blocks: the coarse light is smoothed over one on both sides. */
const AROUND = 2;

/**
 * Estimates the lighting of a flattened page. In each block the paper is the brighter part of the
 * pixels; blocks filled with ink are bridged by a closing; the result is smoothed just enough to
 * hide the blocks. Along the edges of hard shadows that would leave a band, so there the light is
 * taken again in smaller blocks.
 */
export function paperLight(page: Picture): PaperLight {
	const coarse = lightInBlocks(page, Math.max(page.width, page.height) / BLOCKS, INK_RADIUS);
	const light = planes(coarse, (plane) => boxBlur(plane, 1));
	const edge = hardEdges(coarse.green);
	if (!edge) return light;
	const block = Math.max(page.width, page.height) / (FINER * BLOCKS);
	if (block < 4) return light;
	const fine = planes(lightInBlocks(page, block, FINE_INK_RADIUS), (plane) => boxBlur(plane, 1));
	return {
		red: mixed(light.red, fine.red, edge),
		green: mixed(light.green, fine.green, edge),
		blue: mixed(light.blue, fine.blue, edge)
	};
}

function planes({ red, green, blue }: PaperLight, change: (plane: FloatPlane) => FloatPlane): PaperLight {
	return { red: change(red), green: change(green), blue: change(blue) };
}

/** Where the light changes at once, and around there: 0 to 1, smooth; null when it does so nowhere. */
function hardEdges({ width, height, data }: FloatPlane): FloatPlane | null {
	const marks = new Float32Array(data.length);
	let found = false;
	for (let y = 1; y < height; y++) {
		for (let x = 1; x < width; x++) {
			const here = data[y * width + x]!;
			for (const other of [data[y * width + x - 1]!, data[(y - 1) * width + x]!]) {
				if (Math.max(here, other) < HARD_EDGE * Math.max(1, Math.min(here, other))) continue;
				found = true;
				for (let v = Math.max(0, y - AROUND); v <= Math.min(height - 1, y + AROUND); v++) {
					marks.fill(1, v * width + Math.max(0, x - AROUND), v * width + Math.min(width, x + AROUND + 1));
				}
			}
		}
	}
	return found ? boxBlur({ width, height, data: marks }, 1) : null;
}

/** The fine plane where `share` is 1, the coarse one where it is 0, both at the fine size. */
function mixed(coarse: FloatPlane, fine: FloatPlane, share: FloatPlane): FloatPlane {
	const { width, height } = fine;
	const data = new Float32Array(width * height);
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			const u = ((x + 0.5) * coarse.width) / width - 0.5;
			const v = ((y + 0.5) * coarse.height) / height - 0.5;
			const part = between(share, u, v);
			data[y * width + x] = part * fine.data[y * width + x]! + (1 - part) * between(coarse, u, v);
		}
	}
	return { width, height, data };
}

/** Bilinear, with the border going on outside. */
function between({ width, height, data }: FloatPlane, u: number, v: number): number {
	const x = Math.min(Math.max(u, 0), width - 1);
	const y = Math.min(Math.max(v, 0), height - 1);
	const x0 = x | 0;
	const y0 = y | 0;
	const x1 = Math.min(x0 + 1, width - 1);
	const y1 = Math.min(y0 + 1, height - 1);
	const top = data[y0 * width + x0]! * (1 - x + x0) + data[y0 * width + x1]! * (x - x0);
	const bottom = data[y1 * width + x0]! * (1 - x + x0) + data[y1 * width + x1]! * (x - x0);
	return top * (1 - y + y0) + bottom * (y - y0);
}

function lightInBlocks(
	{ width, height, channels, data }: Picture,
	side: number,
	inkRadius: number
): PaperLight {
	const block = Math.max(4, Math.round(side));
	const columns = Math.ceil(width / block);
	const rows = Math.ceil(height / block);
	const sums = [0, 1, 2].map(() => new Float32Array(columns * rows));
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
			sums[0]![at] = r / Math.max(1, count);
			sums[1]![at] = g / Math.max(1, count);
			sums[2]![at] = b / Math.max(1, count);
		}
	}
	const [red, green, blue] = sums.map((plane) =>
		closing({ width: columns, height: rows, data: plane }, inkRadius)
	);
	return { red: red!, green: green!, blue: blue! };
}
