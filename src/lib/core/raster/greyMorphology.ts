import type { FloatPlane } from './picture';

/** Greyscale closing with a square of side `2 * radius + 1`: fills dark spots smaller than it. */
export function closing(plane: FloatPlane, radius: number): FloatPlane {
	return extremum(extremum(plane, radius, Math.max), radius, Math.min);
}

function extremum(plane: FloatPlane, radius: number, pick: (a: number, b: number) => number): FloatPlane {
	const { width, height, data } = plane;
	const across = new Float32Array(data.length);
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			let v = data[y * width + x]!;
			for (let k = Math.max(0, x - radius); k <= Math.min(width - 1, x + radius); k++) {
				v = pick(v, data[y * width + k]!);
			}
			across[y * width + x] = v;
		}
	}
	const out = new Float32Array(data.length);
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			let v = across[y * width + x]!;
			for (let k = Math.max(0, y - radius); k <= Math.min(height - 1, y + radius); k++) {
				v = pick(v, across[k * width + x]!);
			}
			out[y * width + x] = v;
		}
	}
	return { width, height, data: out };
}
