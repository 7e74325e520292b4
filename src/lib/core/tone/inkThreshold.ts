import { withKernels, type Kernels } from '../kernels/kernels';
import type { Plane } from '../raster/picture';

/** Spread of grey below which there is no writing in a window, only grain. */
const LEAST_SPREAD = 14;
/** Ink is darker than its window by at least this. */
const LEAST_STEP = 0.45 * LEAST_SPREAD;
/** Paper that came out whiter than this is never ink: most pixels end here. */
const BRIGHT = 246;
/** A window that is darker than this all in all lies in a filled shape: what is as dark there is ink, whatever surrounds it. */
const SOLID = 110;
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
	const radius = Math.max(2, window >> 1);
	const limits = {
		k: K - 0.06 * inkWeight,
		clearance: CLEARANCE - 0.15 * inkWeight,
		spread: strongestSpread(plane, radius),
		darkest: darkestGrey(plane.data)
	};
	return withKernels(
		(kernels) => thresholdFast(kernels, plane, radius, limits),
		() => thresholdPlain(plane, radius, limits)
	);
}

interface Limits {
	readonly k: number;
	readonly clearance: number;
	/** The strongest contrast of the page, as a standard deviation. */
	readonly spread: number;
	readonly darkest: number;
}

function thresholdFast(
	kernels: Kernels,
	{ width, height, data }: Plane,
	radius: number,
	{ k, clearance, spread, darkest }: Limits
): Uint8Array {
	const source = kernels.put(data);
	const ink = kernels.cleared(width * height);
	const scratch = kernels.room(4 * (width + 20) * 4);
	kernels.run.threshold(
		source,
		width,
		height,
		radius,
		BRIGHT,
		k,
		clearance,
		spread,
		darkest,
		LEAST_STEP,
		SOLID,
		ink,
		scratch
	);
	return kernels.bytes(ink, width * height);
}

function thresholdPlain(
	{ width, height, data }: Plane,
	radius: number,
	{ k, clearance, spread, darkest }: Limits
): Uint8Array {
	const ink = new Uint8Array(width * height);
	const inverse = 1 / spread;
	// Sums over the rows of the window for each column, and from those running sums along the row.
	const columnSums = new Float64Array(width);
	const columnSquares = new Float64Array(width);
	const sums = new Float64Array(width + 1);
	const squares = new Float64Array(width + 1);
	const change = (y: number, sign: 1 | -1) => {
		for (let x = 0, i = y * width; x < width; x++, i++) {
			const v = data[i]!;
			columnSums[x]! += sign * v;
			columnSquares[x]! += sign * v * v;
		}
	};
	for (let y = 0; y < Math.min(radius, height); y++) change(y, 1);
	for (let y = 0; y < height; y++) {
		if (y + radius < height) change(y + radius, 1);
		if (y - radius - 1 >= 0) change(y - radius - 1, -1);
		for (let x = 0; x < width; x++) {
			sums[x + 1] = sums[x]! + columnSums[x]!;
			squares[x + 1] = squares[x]! + columnSquares[x]!;
		}
		const rows = Math.min(height, y + radius + 1) - Math.max(0, y - radius);
		for (let x = 0; x < width; x++) {
			const v = data[y * width + x]!;
			if (v > BRIGHT) continue;
			const left = x > radius ? x - radius : 0;
			const right = x + radius + 1 < width ? x + radius + 1 : width;
			const n = 1 / (rows * (right - left));
			const mean = (sums[right]! - sums[left]!) * n;
			const square = (squares[right]! - squares[left]!) * n;
			const s = Math.sqrt(Math.max(0, square - mean * mean));
			const threshold = Math.min(mean - k * (1 - s * inverse) * (mean - darkest), mean - clearance * s);
			const isSolid = mean < SOLID && v < SOLID;
			if (isSolid || (v < threshold && mean - v > LEAST_STEP)) ink[y * width + x] = 1;
		}
	}
	return ink;
}

/** The 98th percentile of the local standard deviation, over windows of two by two cells. */
function strongestSpread(plane: Plane, radius: number): number {
	const columns = Math.floor((plane.width - 1) / radius);
	const rows = Math.floor((plane.height - 1) / radius);
	const cells = { side: radius, columns: Math.max(0, columns), rows: Math.max(0, rows) };
	const { sums, squares } = withKernels(
		(kernels) => cellSumsFast(kernels, plane, cells),
		() => cellSumsPlain(plane, cells)
	);
	const variances = new Float64Array(Math.max(0, columns - 1) * Math.max(0, rows - 1));
	const n = 4 * radius * radius;
	let at = 0;
	for (let row = 1; row < rows; row++) {
		for (let column = 1; column < columns; column++) {
			const i = row * columns + column;
			const above = i - columns;
			const mean = (sums[above - 1]! + sums[above]! + sums[i - 1]! + sums[i]!) / n;
			const square = (squares[above - 1]! + squares[above]! + squares[i - 1]! + squares[i]!) / n;
			variances[at++] = square - mean * mean;
		}
	}
	const strong = variances.sort()[Math.floor(at * 0.98)] ?? 0;
	return Math.max(LEAST_SPREAD, Math.sqrt(Math.max(0, strong)));
}

interface Cells {
	readonly side: number;
	readonly columns: number;
	readonly rows: number;
}

interface CellSums {
	readonly sums: Uint32Array;
	readonly squares: Uint32Array;
}

function cellSumsFast(kernels: Kernels, plane: Plane, { side, columns, rows }: Cells): CellSums {
	const source = kernels.put(plane.data);
	const sums = kernels.room(columns * rows * 4);
	const squares = kernels.room(columns * rows * 4);
	const scratch = kernels.room(2 * (plane.width + 16) * 4);
	kernels.run.cellSums(source, plane.width, side, columns, rows, sums, squares, scratch);
	const read = (at: number) => new Uint32Array(kernels.bytes(at, columns * rows * 4).buffer);
	return { sums: read(sums), squares: read(squares) };
}

function cellSumsPlain({ width, data }: Plane, { side, columns, rows }: Cells): CellSums {
	const sums = new Uint32Array(columns * rows);
	const squares = new Uint32Array(columns * rows);
	for (let y = 0; y < rows * side; y++) {
		const row = Math.floor(y / side) * columns;
		for (let column = 0; column < columns; column++) {
			let sum = 0;
			let square = 0;
			for (let i = y * width + column * side, end = i + side; i < end; i++) {
				sum += data[i]!;
				square += data[i]! * data[i]!;
			}
			sums[row + column]! += sum;
			squares[row + column]! += square;
		}
	}
	return { sums, squares };
}

/** Every so many pixels are enough to tell the darkest. */
const SAMPLED = 23;

function darkestGrey(data: Uint8Array): number {
	const histogram = new Uint32Array(256);
	for (let i = 0; i < data.length; i += SAMPLED) histogram[data[i]!]!++;
	let count = 0;
	const least = data.length / SAMPLED / 2000;
	for (let v = 0; v < 256; v++) {
		count += histogram[v]!;
		if (count > least) return v;
	}
	return 0;
}
