import type { Plane } from './picture';

/**
 * Summed-area tables of a plane and of its squares, each `(width + 1) x (height + 1)` with a zero
 * first row and column (Crow 1984). Double precision: an A4 page at 300 dpi overflows 32 bits.
 */
export interface IntegralImages {
	readonly width: number;
	readonly height: number;
	readonly sum: Float64Array;
	readonly squares: Float64Array;
}

export function integralImages({ width, height, data }: Plane): IntegralImages {
	const stride = width + 1;
	const sum = new Float64Array(stride * (height + 1));
	const squares = new Float64Array(stride * (height + 1));
	for (let y = 0; y < height; y++) {
		let rowSum = 0;
		let rowSquares = 0;
		const above = y * stride;
		const here = above + stride;
		for (let x = 0; x < width; x++) {
			const v = data[y * width + x]!;
			rowSum += v;
			rowSquares += v * v;
			sum[here + x + 1] = sum[above + x + 1]! + rowSum;
			squares[here + x + 1] = squares[above + x + 1]! + rowSquares;
		}
	}
	return { width, height, sum, squares };
}
