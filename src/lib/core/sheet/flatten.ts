import type { Picture } from '../raster/picture';
import { homography } from './homography';
import type { Quadrilateral } from './geometry';

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
	const dense = area / 2 / (width * height) > 2.6;
	const out = new Uint8Array(width * height * 3);
	const offsets = dense ? [0.25, 0.75] : [0.5];
	if (dense) {
		const sums = new Uint16Array(width * 3);
		for (let y = 0; y < height; y++) {
			sums.fill(0);
			for (const oy of offsets) {
				for (const ox of offsets) sampleRow(picture, h, y + oy, ox, width, sums, true);
			}
			const row = y * width * 3;
			for (let i = 0; i < sums.length; i++) out[row + i] = (sums[i]! + 2) >> 2;
		}
	} else {
		for (let y = 0; y < height; y++) {
			sampleRow(picture, h, y + 0.5, 0.5, width, out.subarray(y * width * 3, (y + 1) * width * 3), false);
		}
	}
	return { width, height, channels: 3, data: out };
}

function sampleRow(
	{ width: sw, height: sh, channels, data }: Picture,
	h: ReturnType<typeof homography>,
	py: number,
	firstX: number,
	width: number,
	out: Uint8Array | Uint16Array,
	add: boolean
): void {
	const stride = sw * channels;
	let u = h[0] * firstX + h[1] * py + h[2];
	let v = h[3] * firstX + h[4] * py + h[5];
	let w = h[6] * firstX + h[7] * py + h[8];
	for (let x = 0, o = 0; x < width; x++, o += 3, u += h[0], v += h[3], w += h[6]) {
		const iw = 1 / w;
		const sx = u * iw - 0.5;
		const sy = v * iw - 0.5;
		let r = 255;
		let g = 255;
		let b = 255;
		if (sx > -1 && sy > -1 && sx < sw && sy < sh) {
			const cx = sx < 0 ? 0 : sx > sw - 1 ? sw - 1 : sx;
			const cy = sy < 0 ? 0 : sy > sh - 1 ? sh - 1 : sy;
			const x0 = cx | 0;
			const y0 = cy | 0;
			// 8-bit fractions: the sum of four products fits in 24 bits.
			const fx = ((cx - x0) * 256) | 0;
			const fy = ((cy - y0) * 256) | 0;
			const p = y0 * stride + x0 * channels;
			const right = x0 + 1 < sw ? channels : 0;
			const q = y0 + 1 < sh ? p + stride : p;
			const w00 = (256 - fx) * (256 - fy);
			const w10 = fx * (256 - fy);
			const w01 = (256 - fx) * fy;
			const w11 = fx * fy;
			r = (data[p]! * w00 + data[p + right]! * w10 + data[q]! * w01 + data[q + right]! * w11 + 32768) >> 16;
			g =
				(data[p + 1]! * w00 +
					data[p + right + 1]! * w10 +
					data[q + 1]! * w01 +
					data[q + right + 1]! * w11 +
					32768) >>
				16;
			b =
				(data[p + 2]! * w00 +
					data[p + right + 2]! * w10 +
					data[q + 2]! * w01 +
					data[q + right + 2]! * w11 +
					32768) >>
				16;
		}
		if (add) {
			out[o]! += r;
			out[o + 1]! += g;
			out[o + 2]! += b;
		} else {
			out[o] = r;
			out[o + 1] = g;
			out[o + 2] = b;
		}
	}
}
