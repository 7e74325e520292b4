import { integralImages } from '../raster/integralImage';
import type { Plane } from '../raster/picture';

/** Spread of grey below which there is no writing in a window, only grain. */
const LEAST_SPREAD = 14;
const K = 0.3;
/** Ink lies at least this many local standard deviations below the mean, or blurred letters fill up. */
const CLEARANCE = 0.5;

/**
 * Local threshold after Wolf and Jolion (2004), of the Sauvola family: the threshold lies below the
 * local mean by an amount that shrinks where the window has contrast, relative to the strongest
 * contrast of this page, so that a page of faint pencil is held to its own standard.
 *
 * @param window side of the window in pixels; about ten stroke widths
 * @param inkWeight -2 to 2, see Tone
 * @returns 1 for ink and 0 for paper, `width x height`
 */
export function inkThreshold(plane: Plane, window: number, inkWeight = 0): Uint8Array {
	const { width, height, data } = plane;
	const { sum, squares } = integralImages(plane);
	const radius = Math.max(2, window >> 1);
	const stride = width + 1;
	const k = K - 0.06 * inkWeight;
	const clearance = CLEARANCE - 0.15 * inkWeight;

	const spread = strongestSpread(sum, squares, width, height, radius);
	const darkest = darkestGrey(data);
	const ink = new Uint8Array(width * height);
	for (let y = 0; y < height; y++) {
		const top = Math.max(0, y - radius) * stride;
		const bottom = Math.min(height, y + radius + 1) * stride;
		const rows = (bottom - top) / stride;
		for (let x = 0; x < width; x++) {
			const v = data[y * width + x]!;
			// Paper that came out white is never ink: most pixels end here.
			if (v > 246) continue;
			const left = x > radius ? x - radius : 0;
			const right = x + radius + 1 < width ? x + radius + 1 : width;
			const n = 1 / (rows * (right - left));
			const mean = (sum[bottom + right]! - sum[top + right]! - sum[bottom + left]! + sum[top + left]!) * n;
			const square =
				(squares[bottom + right]! - squares[top + right]! - squares[bottom + left]! + squares[top + left]!) *
				n;
			const s = Math.sqrt(Math.max(0, square - mean * mean));
			const threshold = Math.min(mean - k * (1 - s / spread) * (mean - darkest), mean - clearance * s);
			if (v < threshold && mean - v > 0.45 * LEAST_SPREAD) ink[y * width + x] = 1;
		}
	}
	return ink;
}

/** The 98th percentile of the local standard deviation, on a coarse grid. */
function strongestSpread(
	sum: Float64Array,
	squares: Float64Array,
	width: number,
	height: number,
	radius: number
): number {
	const stride = width + 1;
	const spreads: number[] = [];
	const step = Math.max(1, radius);
	for (let y = radius; y + radius < height; y += step) {
		for (let x = radius; x + radius < width; x += step) {
			const a = (y - radius) * stride + x - radius;
			const b = (y - radius) * stride + x + radius;
			const c = (y + radius) * stride + x - radius;
			const d = (y + radius) * stride + x + radius;
			const n = 4 * radius * radius;
			const mean = (sum[d]! - sum[b]! - sum[c]! + sum[a]!) / n;
			const square = (squares[d]! - squares[b]! - squares[c]! + squares[a]!) / n;
			spreads.push(Math.sqrt(Math.max(0, square - mean * mean)));
		}
	}
	spreads.sort((a, b) => a - b);
	return Math.max(LEAST_SPREAD, spreads[Math.floor(spreads.length * 0.98)] ?? LEAST_SPREAD);
}

function darkestGrey(data: Uint8Array): number {
	const histogram = new Uint32Array(256);
	for (let i = 0; i < data.length; i += 7) histogram[data[i]!]!++;
	let count = 0;
	const least = data.length / 7 / 2000;
	for (let v = 0; v < 256; v++) {
		count += histogram[v]!;
		if (count > least) return v;
	}
	return 0;
}
