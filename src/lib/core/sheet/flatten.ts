import { withKernels, type Kernels } from '../kernels/kernels';
import type { Picture } from '../raster/picture';
import type { Quadrilateral } from './geometry';
import { homography } from './homography';

type Homography = ReturnType<typeof homography>;

/** Source pixels for one of the page from which on four samples are averaged, so that thin strokes are not skipped. */
const DENSE = 2.6;

/**
 * Straightens an outline into a rectangle of `width x height` pixels. Bilinear, in steps of 1/128 pixel; where the
 * outline reaches outside the picture the result is white. Where the source holds more than 2.6 times the pixels
 * asked for, four samples are averaged for each, so that thin strokes are not skipped.
 *
 * @returns an RGB picture
 * @throws RangeError when three corners lie on one line
 */
export function flatten(
	picture: Picture,
	corners: Quadrilateral,
	width: number,
	height: number
): Picture & { data: Uint8Array } {
	const h = homography(
		[
			[0, 0],
			[width, 0],
			[width, height],
			[0, height]
		],
		corners
	);
	const area = Math.abs(
		(corners[2][0] - corners[0][0]) * (corners[3][1] - corners[1][1]) -
			(corners[3][0] - corners[1][0]) * (corners[2][1] - corners[0][1])
	);
	const isDense = area / 2 / (width * height) > DENSE;
	const page = { width, height, isDense, mapping: isDense ? halfStep(h) : h };
	const data = withKernels(
		(kernels) => flattenFast(kernels, picture, page),
		() => flattenPlain(picture, page)
	);
	return { width, height, channels: 3, data };
}

interface Page {
	readonly width: number;
	readonly height: number;
	/** Two samples for each pixel both ways. */
	readonly isDense: boolean;
	/** From the grid of samples to the picture. */
	readonly mapping: Homography;
}

/** A page is made in tiles, so that the part of the picture for each stays near at hand. */
const TILE = { width: 256, height: 64 } as const;

interface Tile {
	readonly left: number;
	readonly top: number;
	readonly width: number;
	readonly height: number;
}

function* tilesOf({ width, height }: Page): Generator<Tile> {
	for (let top = 0; top < height; top += TILE.height) {
		for (let left = 0; left < width; left += TILE.width) {
			yield {
				left,
				top,
				width: Math.min(TILE.width, width - left),
				height: Math.min(TILE.height, height - top)
			};
		}
	}
}

function flattenPlain(picture: Picture, page: Page): Uint8Array {
	const out = new Uint8Array(page.width * page.height * 3);
	// Two rows of samples for each row of pixels, two samples for each pixel.
	const [upper, lower] = [new Uint8Array(TILE.width * 6), new Uint8Array(TILE.width * 6)];
	for (const { left, top, width, height } of tilesOf(page)) {
		for (let y = top; y < top + height; y++) {
			const to = 3 * (y * page.width + left);
			if (!page.isDense) {
				sampleRow(picture, startOfRow(page.mapping, left, y), width, out, to);
				continue;
			}
			sampleRow(picture, startOfRow(page.mapping, 2 * left, 2 * y), 2 * width, upper, 0);
			sampleRow(picture, startOfRow(page.mapping, 2 * left, 2 * y + 1), 2 * width, lower, 0);
			for (let x = 0, o = to, i = 0; x < width; x++, o += 3, i += 6) {
				out[o] = (upper[i]! + upper[i + 3]! + lower[i]! + lower[i + 3]! + 2) >> 2;
				out[o + 1] = (upper[i + 1]! + upper[i + 4]! + lower[i + 1]! + lower[i + 4]! + 2) >> 2;
				out[o + 2] = (upper[i + 2]! + upper[i + 5]! + lower[i + 2]! + lower[i + 5]! + 2) >> 2;
			}
		}
	}
	return out;
}

function flattenFast(kernels: Kernels, picture: Picture, page: Page): Uint8Array {
	const { channels, data } = picture;
	const { run } = kernels;
	const out = kernels.room(page.width * page.height * 3);
	const [upper, lower, line] = [6, 6, 3].map((bytes) => kernels.room(TILE.width * bytes)) as [
		number,
		number,
		number
	];
	const patches = [...tilesOf(page)].map((tile) => ({ tile, ...patchOf(picture, page, tile) }));
	const room = kernels.room(Math.max(...patches.map((p) => p.width * p.height)) * channels);
	const memory = kernels.view(0, kernels.size);
	for (const { tile, left, top, width, height } of patches) {
		const stride = width * channels;
		for (let y = 0; y < height; y++) {
			const from = ((top + y) * picture.width + left) * channels;
			memory.set(data.subarray(from, from + stride), room + y * stride);
		}
		const source = room - top * stride - left * channels;
		const sample = (row: Row, count: number, to: number) => {
			if (stride > 0 && isInside(picture, row, count)) {
				const { u, v, w, stepU, stepV, stepW } = row;
				run.sampleRow(source, stride, channels, u, v, w, stepU, stepV, stepW, count, to);
			} else sampleRow(picture, row, count, memory, to);
		};
		for (let y = tile.top; y < tile.top + tile.height; y++) {
			if (page.isDense) {
				sample(startOfRow(page.mapping, 2 * tile.left, 2 * y), 2 * tile.width, upper);
				sample(startOfRow(page.mapping, 2 * tile.left, 2 * y + 1), 2 * tile.width, lower);
				run.averageRows(upper, lower, tile.width, line);
			} else sample(startOfRow(page.mapping, tile.left, y), tile.width, line);
			// What is written beyond the end must not fall on the next row.
			memory.copyWithin(out + 3 * (y * page.width + tile.left), line, line + 3 * tile.width);
		}
	}
	return kernels.bytes(out, page.width * page.height * 3);
}

/**
 * The part of the picture that a tile is made from, in pixels; empty where it lies outside, or where corners that no
 * camera sees make it reach beyond the horizon.
 */
function patchOf(picture: Picture, { isDense, mapping: h }: Page, { left, top, width, height }: Tile): Tile {
	const samples = isDense ? 2 : 1;
	const corners = [0, 1, 2, 3].map((i) => {
		const x = samples * (left + (i & 1) * width);
		const y = samples * (top + (i >> 1) * height);
		const w = h[6] * x + h[7] * y + 1;
		return [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w, w] as const;
	});
	if (corners.some(([, , w]) => !(w > 0))) return { left: 0, top: 0, width: 0, height: 0 };
	const range = (axis: 0 | 1, end: number) => {
		const values = corners.map((corner) => corner[axis]);
		const first = Math.min(Math.max(Math.floor(Math.min(...values)) - 2, 0), end);
		return [first, Math.max(Math.min(Math.ceil(Math.max(...values)) + 3, end), first)] as const;
	};
	const [x0, x1] = range(0, picture.width);
	const [y0, y1] = range(1, picture.height);
	return { left: x0, top: y0, width: x1 - x0, height: y1 - y0 };
}

/** The same mapping from a grid twice as fine. */
function halfStep(h: Homography): Homography {
	return [h[0] / 2, h[1] / 2, h[2], h[3] / 2, h[4] / 2, h[5], h[6] / 2, h[7] / 2, 1];
}

/** Where the first sample of a row comes from, in homogeneous coordinates, and how far it is to the next. */
interface Row {
	readonly u: number;
	readonly v: number;
	readonly w: number;
	readonly stepU: number;
	readonly stepV: number;
	readonly stepW: number;
}

function startOfRow(h: Homography, column: number, row: number): Row {
	const [stepU, stepV, stepW] = [h[0], h[3], h[6]];
	const x = column + 0.5;
	const y = row + 0.5;
	return {
		u: x * stepU + h[1] * y + h[2],
		v: x * stepV + h[4] * y + h[5],
		w: x * stepW + h[7] * y + 1,
		stepU,
		stepV,
		stepW
	};
}

/** A straight row whose ends lie inside, this side of the horizon, lies inside. */
function isInside({ width, height }: Picture, row: Row, count: number): boolean {
	const { u, v, w, stepU, stepV, stepW } = row;
	const k = count - 1;
	return (
		w > 0 &&
		w + k * stepW > 0 &&
		isWithin(u / w, v / w, width, height) &&
		isWithin((u + k * stepU) / (w + k * stepW), (v + k * stepV) / (w + k * stepW), width, height)
	);
}

/** With a pixel to spare on all sides. */
function isWithin(x: number, y: number, width: number, height: number): boolean {
	return x >= 1 && y >= 1 && x < width - 1 && y < height - 1;
}

/** Between exact places so many samples lie on a straight line; seen askew by 25 degrees, it is off by 1/100 pixel. */
const CHORD = 8;

function place(numerator: number, perPixel: number): number {
	return (numerator * perPixel - 2048) | 0;
}

/** Weighted mean of four samples; weights add up to 16384. Math.imul keeps it in 32-bit integers. */
function blend(
	a: number,
	b: number,
	c: number,
	d: number,
	wa: number,
	wb: number,
	wc: number,
	wd: number
): number {
	return (Math.imul(a, wa) + Math.imul(b, wb) + Math.imul(c, wc) + Math.imul(d, wd) + 8192) >> 14;
}

/** Samples `count` points along one row of the target, bilinear, into `out` from `o` on. */
function sampleRow(picture: Picture, row: Row, count: number, out: Uint8Array, o: number): void {
	const { width: sw, height: sh, channels, data } = picture;
	const { stepU, stepV, stepW } = row;
	let { u, v, w } = row;
	const stride = sw * channels;
	const end = o + 3 * count;
	if (isInside(picture, row, count)) {
		// Eight samples lie on a straight line between exact places, which have 12 bits behind the point; of these, 7
		// weigh the samples, so that weights fit in 16 bits with a sign.
		let perPixel = 4096 / w;
		let x0 = place(u, perPixel);
		let y0 = place(v, perPixel);
		for (let i = 0; i < count; i += CHORD) {
			const n = Math.min(CHORD, count - i);
			// The last chord ends on the last sample: what lies beyond may be outside the picture, or anywhere.
			const k = Math.min(i + CHORD, count - 1);
			const span = Math.max(k - i, 1);
			perPixel = 4096 / (w + k * stepW);
			const x1 = place(u + k * stepU, perPixel);
			const y1 = place(v + k * stepV, perPixel);
			const dx = ((x1 - x0) / span) | 0;
			const dy = ((y1 - y0) / span) | 0;
			for (let j = 0; j < n; j++, o += 3) {
				const sx = x0 + j * dx;
				const sy = y0 + j * dy;
				const fx = (sx >> 5) & 127;
				const fy = (sy >> 5) & 127;
				const p = (sy >> 12) * stride + (sx >> 12) * channels;
				const q = p + stride;
				const w11 = Math.imul(fx, fy);
				const w10 = (fx << 7) - w11;
				const w01 = (fy << 7) - w11;
				const w00 = 16384 - w10 - w01 - w11;
				for (let c = 0; c < 3; c++) {
					out[o + c] = blend(
						data[p + c]!,
						data[p + c + channels]!,
						data[q + c]!,
						data[q + c + channels]!,
						w00,
						w10,
						w01,
						w11
					);
				}
			}
			x0 = x1;
			y0 = y1;
		}
		return;
	}
	for (; o < end; o += 3, u += stepU, v += stepV, w += stepW) {
		const sx = u / w - 0.5;
		const sy = v / w - 0.5;
		if (!(sx > -1 && sy > -1 && sx < sw && sy < sh)) {
			out[o] = out[o + 1] = out[o + 2] = 255;
			continue;
		}
		const cx = sx < 0 ? 0 : sx > sw - 1 ? sw - 1 : sx;
		const cy = sy < 0 ? 0 : sy > sh - 1 ? sh - 1 : sy;
		const x0 = cx | 0;
		const y0 = cy | 0;
		const fx = cx - x0;
		const fy = cy - y0;
		const p = y0 * stride + x0 * channels;
		const right = x0 + 1 < sw ? channels : 0;
		const q = y0 + 1 < sh ? p + stride : p;
		for (let c = 0; c < 3; c++) {
			const top = data[p + c]! + (data[p + right + c]! - data[p + c]!) * fx;
			const bottom = data[q + c]! + (data[q + right + c]! - data[q + c]!) * fx;
			out[o + c] = top + (bottom - top) * fy + 0.5;
		}
	}
}
