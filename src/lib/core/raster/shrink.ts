import { withKernels, type Kernels } from '../kernels/kernels';
import type { Picture } from './picture';

/**
 * Shrinks a picture so that its longer side is at most `longest` pixels, averaging whole areas
 * (box filter, so no aliasing of ruled lines). A smaller picture is returned as it is.
 * The result has 3 channels. Its exact scale is `result.width / picture.width` across and
 * `result.height / picture.height` down.
 */
export function shrinkTo(picture: Picture, longest: number): Picture {
	const scale = longest / Math.max(picture.width, picture.height);
	if (scale >= 1) return picture;
	return shrink(
		picture,
		Math.max(1, Math.round(picture.width * scale)),
		Math.max(1, Math.round(picture.height * scale))
	);
}

/** Areas wider than this are sampled: averaging all of it would tell no more, and take longer. */
const WHOLE = 6;
/** Rows and columns averaged of wider areas. */
const SAMPLES = 3;

/**
 * Area-averaging reduction to exactly `width x height`. Areas of more than 6 x 6 pixels are averaged
 * over an even grid of 3 x 3 of them.
 * @throws RangeError when asked to enlarge
 */
export function shrink(picture: Picture, width: number, height: number): Picture {
	if (width > picture.width || height > picture.height) {
		throw new RangeError('shrink cannot enlarge a picture');
	}
	const stride = picture.width * picture.channels;
	const columns = sampled(picture.width, width, picture.channels);
	const rows = sampled(picture.height, height, stride);
	const data = withKernels(
		(kernels) => shrinkFast(kernels, picture.data, stride, columns, rows, width, height),
		() => shrinkPlain(picture.data, columns, rows, width, height)
	);
	return { width, height, channels: 3, data };
}

function shrinkFast(
	kernels: Kernels,
	data: Picture['data'],
	stride: number,
	columns: Samples,
	rows: Samples,
	width: number,
	height: number
): Uint8Array {
	const across = kernels.put(columns.offsets);
	const out = kernels.room(3 * width * height);
	const sampled = kernels.room(rows.each * stride);
	const memory = kernels.view(0, kernels.size);
	for (let y = 0; y < height; y++) {
		for (let j = 0; j < rows.each; j++) {
			const from = rows.offsets[y * rows.each + j]!;
			memory.set(data.subarray(from, from + stride), sampled + j * stride);
		}
		kernels.run.shrinkRow(sampled, stride, rows.each, across, columns.each, width, out + 3 * y * width);
	}
	return kernels.bytes(out, 3 * width * height);
}

function shrinkPlain(
	data: Picture['data'],
	{ offsets: columns, each: across }: Samples,
	{ offsets: rows, each: down }: Samples,
	width: number,
	height: number
): Uint8Array {
	const out = new Uint8Array(width * height * 3);
	const half = (across * down) >> 1;
	const share = 1 / (across * down);
	for (let y = 0, o = 0; y < height; y++) {
		for (let x = 0; x < width; x++, o += 3) {
			let r = half;
			let g = half;
			let b = half;
			for (let j = y * down, jEnd = j + down; j < jEnd; j++) {
				const row = rows[j]!;
				for (let i = x * across, iEnd = i + across; i < iEnd; i++) {
					const p = row + columns[i]!;
					r += data[p]!;
					g += data[p + 1]!;
					b += data[p + 2]!;
				}
			}
			// Half a grey level of one sample more keeps whole numbers from rounding down.
			out[o] = (r + 0.5) * share;
			out[o + 1] = (g + 0.5) * share;
			out[o + 2] = (b + 0.5) * share;
		}
	}
	return out;
}

/** Offsets of the samples of cells along one direction, and how many a cell has. */
interface Samples {
	readonly offsets: Int32Array;
	readonly each: number;
}

function sampled(length: number, cells: number, stride: number): Samples {
	const wide = length / cells;
	const each = wide > WHOLE ? SAMPLES : Math.max(1, Math.round(wide));
	const offsets = new Int32Array(cells * each);
	for (let i = 0; i < offsets.length; i++) {
		offsets[i] = Math.min(length - 1, Math.floor(((i + 0.5) * length) / offsets.length)) * stride;
	}
	return { offsets, each };
}
