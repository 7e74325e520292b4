import type { Picture } from '../raster/picture';
import { homography } from './homography';

import type { Quadrilateral } from './geometry';

type Homography = ReturnType<typeof homography>;

/** Source pixels for one of the page from which on four samples are averaged, so that thin strokes are not skipped. */
const DENSE = 2.6;

/**
 * Straightens an outline into a rectangle of `width x height` pixels. Bilinear; where the outline
 * reaches outside the picture the result is white. Where the source holds more than 2.6 times the pixels
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
	const dense = area / 2 / (width * height) > DENSE;
	const out = new Uint8Array(width * height * 3);
	if (dense) {
		// Two rows of samples for each row of pixels, two samples for each pixel.
		const samples = [new Uint8Array(width * 6), new Uint8Array(width * 6)] as const;
		const half = halfStep(h);
		for (let y = 0; y < height; y++) {
			sampleRow(picture, half, 2 * y + 0.5, 2 * width, samples[0], 0);
			sampleRow(picture, half, 2 * y + 1.5, 2 * width, samples[1], 0);
			const [upper, lower] = samples;
			for (let x = 0, o = y * width * 3, i = 0; x < width; x++, o += 3, i += 6) {
				out[o] = (upper[i]! + upper[i + 3]! + lower[i]! + lower[i + 3]! + 2) >> 2;
				out[o + 1] = (upper[i + 1]! + upper[i + 4]! + lower[i + 1]! + lower[i + 4]! + 2) >> 2;
				out[o + 2] = (upper[i + 2]! + upper[i + 5]! + lower[i + 2]! + lower[i + 5]! + 2) >> 2;
			}
		}
	} else {
		for (let y = 0; y < height; y++) sampleRow(picture, h, y + 0.5, width, out, y * width * 3);
	}
	return { width, height, channels: 3, data: out };
}

/** The same mapping from a grid twice as fine. */
function halfStep(h: Homography): Homography {
	return [h[0] / 2, h[1] / 2, h[2], h[3] / 2, h[4] / 2, h[5], h[6] / 2, h[7] / 2, 1];
}

/** Weighted mean of four samples; weights add up to 65536. Math.imul keeps it in 32-bit integers. */
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
	return (Math.imul(a, wa) + Math.imul(b, wb) + Math.imul(c, wc) + Math.imul(d, wd) + 32768) >> 16;
}

/** Samples `count` points along one row of the target, bilinear, into `out` from `o` on. */
function sampleRow(
	{ width: sw, height: sh, channels, data }: Picture,
	h: Homography,
	py: number,
	count: number,
	out: Uint8Array,
	o: number
): void {
	const [stepU, stepV, stepW] = [h[0], h[3], h[6]];
	let u = 0.5 * stepU + h[1] * py + h[2];
	let v = 0.5 * stepV + h[4] * py + h[5];
	let w = 0.5 * stepW + h[7] * py + 1;
	const stride = sw * channels;
	const end = o + 3 * count;
	// A straight row whose ends lie inside lies inside.
	const inside = (k: number) => {
		const x = (u + k * stepU) / (w + k * stepW);
		const y = (v + k * stepV) / (w + k * stepW);
		return x >= 1 && y >= 1 && x < sw - 1 && y < sh - 1;
	};
	if (inside(0) && inside(count - 1)) {
		for (; o < end; o += 3, u += stepU, v += stepV, w += stepW) {
			const iw = 256 / w;
			// 8-bit fractions: the sum of four products fits in 24 bits.
			const sx = (u * iw - 128) | 0;
			const sy = (v * iw - 128) | 0;
			const fx = sx & 255;
			const fy = sy & 255;
			const p = (sy >> 8) * stride + (sx >> 8) * channels;
			const q = p + stride;
			const w11 = Math.imul(fx, fy);
			const w10 = (fx << 8) - w11;
			const w01 = (fy << 8) - w11;
			const w00 = 65536 - w10 - w01 - w11;
			out[o] = blend(data[p]!, data[p + channels]!, data[q]!, data[q + channels]!, w00, w10, w01, w11);
			const p1 = p + 1;
			const q1 = q + 1;
			out[o + 1] = blend(
				data[p1]!,
				data[p1 + channels]!,
				data[q1]!,
				data[q1 + channels]!,
				w00,
				w10,
				w01,
				w11
			);
			const p2 = p + 2;
			const q2 = q + 2;
			out[o + 2] = blend(
				data[p2]!,
				data[p2 + channels]!,
				data[q2]!,
				data[q2 + channels]!,
				w00,
				w10,
				w01,
				w11
			);
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
