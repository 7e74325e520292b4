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

/** Area-averaging reduction to exactly `width x height`; throws RangeError when asked to enlarge. */
export function shrink(picture: Picture, width: number, height: number): Picture {
	if (width > picture.width || height > picture.height) {
		throw new RangeError('shrink cannot enlarge a picture');
	}
	const { channels, data } = picture;
	const sums = new Uint32Array(width * 3);
	const out = new Uint8Array(width * height * 3);
	const columnEnds = new Int32Array(width + 1);
	for (let x = 0; x <= width; x++) columnEnds[x] = Math.floor((x * picture.width) / width);

	for (let y = 0; y < height; y++) {
		const top = Math.floor((y * picture.height) / height);
		const bottom = Math.floor(((y + 1) * picture.height) / height);
		sums.fill(0);
		for (let sy = top; sy < bottom; sy++) {
			let p = sy * picture.width * channels;
			for (let x = 0, o = 0; x < width; x++, o += 3) {
				let r = 0;
				let g = 0;
				let b = 0;
				for (let sx = columnEnds[x]!, end = columnEnds[x + 1]!; sx < end; sx++, p += channels) {
					r += data[p]!;
					g += data[p + 1]!;
					b += data[p + 2]!;
				}
				sums[o]! += r;
				sums[o + 1]! += g;
				sums[o + 2]! += b;
			}
		}
		const rows = bottom - top;
		for (let x = 0, o = 0; x < width; x++, o += 3) {
			const count = rows * (columnEnds[x + 1]! - columnEnds[x]!);
			const q = (y * width + x) * 3;
			out[q] = sums[o]! / count + 0.5;
			out[q + 1] = sums[o + 1]! / count + 0.5;
			out[q + 2] = sums[o + 2]! / count + 0.5;
		}
	}
	return { width, height, channels: 3, data: out };
}
