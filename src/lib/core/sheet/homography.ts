import type { Point, Quadrilateral } from './geometry';

/** A 3x3 projective map, row-major, with the last entry 1. */
export type Homography = readonly [number, number, number, number, number, number, number, number, number];

/**
 * The projective map that takes each corner of `from` to the same corner of `to`: the direct linear
 * transform (Hartley and Zisserman 2004, section 4.1) with four exact points, solved by Gaussian
 * elimination. Throws RangeError when three corners lie on one line.
 */
export function homography(from: Quadrilateral, to: Quadrilateral): Homography {
	const rows: number[][] = [];
	for (let i = 0; i < 4; i++) {
		const [x, y] = from[i]!;
		const [u, v] = to[i]!;
		rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y, u]);
		rows.push([0, 0, 0, x, y, 1, -v * x, -v * y, v]);
	}
	for (let column = 0; column < 8; column++) {
		let pivot = column;
		for (let r = column + 1; r < 8; r++) {
			if (Math.abs(rows[r]![column]!) > Math.abs(rows[pivot]![column]!)) pivot = r;
		}
		[rows[column], rows[pivot]] = [rows[pivot]!, rows[column]!];
		const row = rows[column]!;
		const lead = row[column]!;
		if (Math.abs(lead) < 1e-9) {
			throw new RangeError('These four corners do not make a sheet: three of them are in one line.');
		}
		for (let k = column; k < 9; k++) row[k]! /= lead;
		for (let r = 0; r < 8; r++) {
			const factor = rows[r]![column]!;
			if (r === column || factor === 0) continue;
			for (let k = column; k < 9; k++) rows[r]![k]! -= factor * row[k]!;
		}
	}
	const h = rows.map((row) => row[8]!);
	return [h[0]!, h[1]!, h[2]!, h[3]!, h[4]!, h[5]!, h[6]!, h[7]!, 1];
}

/** Where a homography takes a point. */
export function project(h: Homography, [x, y]: Point): Point {
	const w = h[6] * x + h[7] * y + h[8];
	return [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w];
}
