import { withKernels, type Kernels } from '../kernels/kernels';
import type { FloatPlane } from './picture';

/**
 * Mean over a square window of side `2 * radius + 1`, borders clamped to the part inside the plane.
 * Running sums, so the cost does not depend on the radius.
 */
export function boxBlur(plane: FloatPlane, radius: number): FloatPlane {
	if (radius < 1) return plane;
	const { width, height } = plane;
	const data = withKernels(
		(kernels) => boxBlurFast(kernels, plane, radius, 1),
		() => boxBlurPlain(plane, radius)
	);
	return { width, height, data };
}

function boxBlurFast(
	kernels: Kernels,
	{ width, height, data }: FloatPlane,
	radius: number,
	times: number
): Float32Array {
	let [from, to] = [kernels.put(data), kernels.room(data.byteLength)];
	const across = kernels.room(data.byteLength);
	const sums = kernels.room(4 * width);
	for (let i = 0; i < times; i++) {
		kernels.run.boxBlur(from, width, height, radius, across, sums, to);
		[from, to] = [to, from];
	}
	return kernels.floats(from, data.length);
}

/** The sums down are kept in single precision, as vectors have them. */
function boxBlurPlain({ width, height, data }: FloatPlane, radius: number): Float32Array {
	const across = new Float32Array(width * height);
	const rx = Math.min(radius, width - 1);
	for (let y = 0; y < height; y++) {
		const row = y * width;
		let sum = 0;
		for (let x = 0; x < rx; x++) sum += data[row + x]!;
		// Entering the plane, then fully inside with a constant divisor, then leaving it.
		let x = 0;
		for (; x <= rx && x + rx < width; x++) {
			sum += data[row + x + rx]!;
			across[row + x] = sum / (x + rx + 1);
		}
		const share = 1 / (2 * rx + 1);
		for (; x + rx < width; x++) {
			sum += data[row + x + rx]! - data[row + x - rx - 1]!;
			across[row + x] = sum * share;
		}
		for (; x < width; x++) {
			const first = x - rx;
			if (first > 0) sum -= data[row + first - 1]!;
			across[row + x] = sum / (width - Math.max(0, first));
		}
	}
	const out = new Float32Array(width * height);
	const sums = new Float32Array(width);
	const ry = Math.min(radius, height - 1);
	for (let y = 0; y < ry; y++) {
		for (let x = 0, i = y * width; x < width; x++, i++) sums[x] = sums[x]! + across[i]!;
	}
	for (let y = 0; y < height; y++) {
		const entering = y + ry < height ? (y + ry) * width : -1;
		const leaving = y - ry - 1 >= 0 ? (y - ry - 1) * width : -1;
		const share = Math.fround(1 / (Math.min(height - 1, y + ry) - Math.max(0, y - ry) + 1));
		const row = y * width;
		if (entering >= 0 && leaving >= 0) {
			for (let x = 0; x < width; x++) {
				sums[x] = sums[x]! + Math.fround(across[entering + x]! - across[leaving + x]!);
				out[row + x] = sums[x]! * share;
			}
		} else {
			for (let x = 0; x < width; x++) {
				if (entering >= 0) sums[x] = sums[x]! + across[entering + x]!;
				if (leaving >= 0) sums[x] = sums[x]! - across[leaving + x]!;
				out[row + x] = sums[x]! * share;
			}
		}
	}
	return out;
}

/** Three box passes: close to a Gaussian of standard deviation `sigma` pixels. */
export function gaussianBlur(plane: FloatPlane, sigma: number): FloatPlane {
	// Three boxes of side w have variance (w^2 - 1) / 4 together.
	const radius = Math.max(0, Math.round((Math.sqrt(4 * sigma * sigma + 1) - 1) / 2));
	if (radius === 0) return plane;
	const { width, height } = plane;
	const data = withKernels(
		(kernels) => boxBlurFast(kernels, plane, radius, 3),
		() => boxBlur(boxBlur(boxBlur(plane, radius), radius), radius).data
	);
	return { width, height, data };
}
