import { withKernels, type Kernels } from '../kernels/kernels';
import type { FloatPlane } from './picture';

/** Greyscale closing with a square of side `2 * radius + 1`: fills dark spots smaller than it. */
export function closing(plane: FloatPlane, radius: number): FloatPlane {
	return erode(dilate(plane, radius), radius);
}

/** The largest value within `radius` pixels both ways. */
export function dilate(plane: FloatPlane, radius: number): FloatPlane {
	return around(plane, radius, 1);
}

export function erode(plane: FloatPlane, radius: number): FloatPlane {
	return around(plane, radius, -1);
}

function around(plane: FloatPlane, radius: number, sign: 1 | -1): FloatPlane {
	const { width, height } = plane;
	const data = withKernels(
		(kernels) => extremumFast(kernels, plane, radius, sign),
		() => extremumPlain(plane, radius, sign)
	);
	return { width, height, data };
}

function extremumFast(
	kernels: Kernels,
	{ width, height, data }: FloatPlane,
	radius: number,
	sign: 1 | -1
): Float32Array {
	const source = kernels.put(data);
	const line = kernels.room(4 * (width + 2 * radius + 4));
	const across = kernels.room(data.byteLength);
	const out = kernels.room(data.byteLength);
	kernels.run.extremum(source, width, height, radius, Number(sign > 0), line, across, out);
	return kernels.floats(out, data.length);
}

/** The largest value of a square window, or with a sign of -1 the smallest. */
function extremumPlain({ width, height, data }: FloatPlane, radius: number, sign: 1 | -1): Float32Array {
	const across = new Float32Array(data.length);
	for (let y = 0; y < height; y++) {
		const row = y * width;
		for (let x = 0; x < width; x++) {
			let v = sign * data[row + x]!;
			for (
				let k = row + Math.max(0, x - radius), end = row + Math.min(width - 1, x + radius);
				k <= end;
				k++
			) {
				const other = sign * data[k]!;
				if (other > v) v = other;
			}
			across[row + x] = v;
		}
	}
	const out = new Float32Array(data.length);
	for (let y = 0; y < height; y++) {
		const first = Math.max(0, y - radius) * width;
		const last = Math.min(height - 1, y + radius) * width;
		for (let x = 0; x < width; x++) {
			let v = across[y * width + x]!;
			for (let k = first + x; k <= last + x; k += width) if (across[k]! > v) v = across[k]!;
			out[y * width + x] = sign * v;
		}
	}
	return out;
}
