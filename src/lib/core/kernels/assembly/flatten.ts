/**
 * Left and right of each channel of two neighbouring pixels, side by side as 16-bit numbers. P is u32 for pixels of four bytes
 * and u8 for those of three: each gets code of its own, in which the places of bytes are fixed.
 */
function sides<P>(pixels: v128): v128 {
	if (sizeof<P>() == 4) {
		return v128.swizzle(pixels, i8x16(0, -1, 4, -1, 1, -1, 5, -1, 2, -1, 6, -1, -1, -1, -1, -1));
	}
	return v128.swizzle(pixels, i8x16(0, -1, 3, -1, 1, -1, 4, -1, 2, -1, 5, -1, -1, -1, -1, -1));
}

/** Bits behind the point of a place in the picture, and of those the ones that weigh samples. */
const POINT: i32 = 12;
const FRACTION: i32 = 7;
/** Between exact places so many samples lie on a straight line. */
const CHORD: i32 = 8;

/** A place along one axis, from its share of a pixel with the bits behind the point. */
function place(numerator: f64, perPixel: f64): i32 {
	return <i32>(numerator * perPixel - 2048);
}

/** One pixel as four 32-bit numbers, from itself and its neighbours to the right and below. */
function pixelAt<P>(p: usize, stride: i32, weightsAbove: v128, weightsBelow: v128): v128 {
	const sum = i32x4.add(
		i32x4.dot_i16x8_s(sides<P>(v128.load64_zero(p)), weightsAbove),
		i32x4.dot_i16x8_s(sides<P>(v128.load64_zero(p + stride)), weightsBelow)
	);
	return i32x4.shr_s(i32x4.add(sum, i32x4.splat(8192)), 14);
}

/**
 * Samples `count` points of a straight row that lies inside the picture, bilinear, three bytes each. Writes up to 13 bytes more
 * than that and reads two beyond the last pixel.
 *
 * @param source where pixel (0, 0) of the picture would lie
 */
export function sampleRow(
	source: usize,
	stride: i32,
	channels: i32,
	u: f64,
	v: f64,
	w: f64,
	stepU: f64,
	stepV: f64,
	stepW: f64,
	count: i32,
	out: usize
): void {
	if (channels == 4) sample<u32>(source, stride, 4, u, v, w, stepU, stepV, stepW, count, out);
	else sample<u8>(source, stride, 3, u, v, w, stepU, stepV, stepW, count, out);
}

function sample<P>(
	source: usize,
	stride: i32,
	channels: i32,
	u: f64,
	v: f64,
	w: f64,
	stepU: f64,
	stepV: f64,
	stepW: f64,
	count: i32,
	out: usize
): void {
	const mask = i32x4.splat((1 << FRACTION) - 1);
	const whole = i32x4.splat(1 << (2 * FRACTION));
	const row = i32x4.splat(stride);
	const column = i32x4.splat(channels);
	let perPixel = 4096 / w;
	let x0 = place(u, perPixel);
	let y0 = place(v, perPixel);
	for (let i = 0; i < count; i += CHORD) {
		const n = min(CHORD, count - i);
		// The last chord ends on the last sample: what lies beyond may be outside the picture, or anywhere.
		const last = min(i + CHORD, count - 1);
		const span = max(last - i, 1);
		const k = <f64>last;
		perPixel = 4096 / (w + k * stepW);
		const x1 = place(u + k * stepU, perPixel);
		const y1 = place(v + k * stepV, perPixel);
		// A division by a number that is known is a shift.
		const dx = span == CHORD ? (x1 - x0) / CHORD : (x1 - x0) / span;
		const dy = span == CHORD ? (y1 - y0) / CHORD : (y1 - y0) / span;
		for (let j = 0; j < n; j += 4) {
			// Beyond the end the last sample is taken again: what lies there may be outside the picture.
			const steps = i32x4.min_s(i32x4.add(i32x4.splat(j), i32x4(0, 1, 2, 3)), i32x4.splat(n - 1));
			const x = i32x4.add(i32x4.splat(x0), i32x4.mul(steps, i32x4.splat(dx)));
			const y = i32x4.add(i32x4.splat(y0), i32x4.mul(steps, i32x4.splat(dy)));
			const fx = v128.and(i32x4.shr_s(x, POINT - FRACTION), mask);
			const fy = v128.and(i32x4.shr_s(y, POINT - FRACTION), mask);
			const w11 = i32x4.mul(fx, fy);
			const w10 = i32x4.sub(i32x4.shl(fx, FRACTION), w11);
			const w01 = i32x4.sub(i32x4.shl(fy, FRACTION), w11);
			const w00 = i32x4.sub(i32x4.sub(whole, w10), i32x4.add(w01, w11));
			const above = v128.or(w00, i32x4.shl(w10, 16));
			const below = v128.or(w01, i32x4.shl(w11, 16));
			const offsets = i32x4.add(
				i32x4.mul(i32x4.shr_s(y, POINT), row),
				i32x4.mul(i32x4.shr_s(x, POINT), column)
			);
			const pixel0 = pixelAt<P>(
				source + i32x4.extract_lane(offsets, 0),
				stride,
				v128.shuffle<i32>(above, above, 0, 0, 0, 0),
				v128.shuffle<i32>(below, below, 0, 0, 0, 0)
			);
			const pixel1 = pixelAt<P>(
				source + i32x4.extract_lane(offsets, 1),
				stride,
				v128.shuffle<i32>(above, above, 1, 1, 1, 1),
				v128.shuffle<i32>(below, below, 1, 1, 1, 1)
			);
			const pixel2 = pixelAt<P>(
				source + i32x4.extract_lane(offsets, 2),
				stride,
				v128.shuffle<i32>(above, above, 2, 2, 2, 2),
				v128.shuffle<i32>(below, below, 2, 2, 2, 2)
			);
			const pixel3 = pixelAt<P>(
				source + i32x4.extract_lane(offsets, 3),
				stride,
				v128.shuffle<i32>(above, above, 3, 3, 3, 3),
				v128.shuffle<i32>(below, below, 3, 3, 3, 3)
			);
			const pixels = i8x16.narrow_i16x8_u(
				i16x8.narrow_i32x4_s(pixel0, pixel1),
				i16x8.narrow_i32x4_s(pixel2, pixel3)
			);
			v128.store(out, v128.swizzle(pixels, i8x16(0, 1, 2, 4, 5, 6, 8, 9, 10, 12, 13, 14, -1, -1, -1, -1)));
			out += 3 * min(4, n - j);
		}
		x0 = x1;
		y0 = y1;
	}
}

/** The channels of the left one of two samples, as 16-bit numbers. */
function left(samples: v128): v128 {
	return v128.swizzle(samples, i8x16(0, -1, 1, -1, 2, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1));
}

function right(samples: v128): v128 {
	return v128.swizzle(samples, i8x16(3, -1, 4, -1, 5, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1));
}

/** Each pixel of `out` is the mean of two by two samples, two from each row. */
export function averageRows(upper: usize, lower: usize, width: i32, out: usize): void {
	const two = i16x8.splat(2);
	for (let x = 0; x < width; x++) {
		const a = v128.load64_zero(upper);
		const b = v128.load64_zero(lower);
		const sum = i16x8.add(i16x8.add(left(a), right(a)), i16x8.add(left(b), right(b)));
		const mean = i16x8.shr_u(i16x8.add(sum, two), 2);
		v128.store32_lane(out, i8x16.narrow_i16x8_u(mean, mean), 0);
		upper += 6;
		lower += 6;
		out += 3;
	}
}
