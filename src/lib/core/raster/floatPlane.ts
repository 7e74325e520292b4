import type { FloatPlane, Plane } from './picture';

/** The same plane in floating point. */
export function toFloat({ width, height, data }: Plane): FloatPlane {
	return { width, height, data: Float32Array.from(data) };
}

/** Bilinear resize, used to bring maps computed at low resolution back up; the border goes on outside. */
export function resizeFloat(plane: FloatPlane, width: number, height: number): FloatPlane {
	const data = new Float32Array(width * height);
	const columns = neighbours(plane.width, width);
	const rows = neighbours(plane.height, height);
	const between = new Float64Array(plane.width);
	for (let y = 0, i = 0; y < height; y++) {
		const upper = rows.first[y]! * plane.width;
		const lower = rows.second[y]! * plane.width;
		const down = rows.share[y]!;
		for (let x = 0; x < plane.width; x++) {
			between[x] = plane.data[upper + x]! * (1 - down) + plane.data[lower + x]! * down;
		}
		for (let x = 0; x < width; x++, i++) {
			const left = between[columns.first[x]!]!;
			data[i] = left + (between[columns.second[x]!]! - left) * columns.share[x]!;
		}
	}
	return { width, height, data };
}

/** For each of `to` samples the two of `from` around it, and how much of the second it holds. */
function neighbours(from: number, to: number) {
	const at = Float64Array.from({ length: to }, (_, i) =>
		Math.min(Math.max(((i + 0.5) * from) / to - 0.5, 0), from - 1)
	);
	return {
		first: Int32Array.from(at),
		second: Int32Array.from(at, (v) => Math.min(Math.floor(v) + 1, from - 1)),
		share: at.map((v) => v % 1)
	};
}

/** A plane's value between its samples, bilinear, at fractions of its width and height; the border goes on outside. */
export function sampleAt({ width, height, data }: FloatPlane, u: number, v: number): number {
	const x = Math.min(Math.max(u * width - 0.5, 0), width - 1);
	const y = Math.min(Math.max(v * height - 0.5, 0), height - 1);
	const [x0, y0] = [Math.floor(x), Math.floor(y)];
	const [x1, y1] = [Math.min(x0 + 1, width - 1), Math.min(y0 + 1, height - 1)];
	const upper = data[y0 * width + x0]! * (1 - (x - x0)) + data[y0 * width + x1]! * (x - x0);
	const lower = data[y1 * width + x0]! * (1 - (x - x0)) + data[y1 * width + x1]! * (x - x0);
	return upper + (lower - upper) * (y - y0);
}
