/** Adds numbers to those that are there, or takes them away. */
function change(at: usize, values: v128, isEntering: bool): void {
	const known = v128.load(at);
	v128.store(at, isEntering ? i32x4.add(known, values) : i32x4.sub(known, values));
}

/**
 * Adds a row of bytes to the sums of its columns and its squares to theirs, or takes them away. Columns are a multiple
 * of 16.
 */
function changeColumns(row: usize, sums: usize, squares: usize, columns: i32, isEntering: bool): void {
	for (let x = 0; x < columns; x += 16) {
		const v = v128.load(row + x);
		const low = i16x8.extend_low_i8x16_u(v);
		const high = i16x8.extend_high_i8x16_u(v);
		const s = sums + (x << 2);
		const q = squares + (x << 2);
		change(s, i32x4.extend_low_i16x8_u(low), isEntering);
		change(s + 16, i32x4.extend_high_i16x8_u(low), isEntering);
		change(s + 32, i32x4.extend_low_i16x8_u(high), isEntering);
		change(s + 48, i32x4.extend_high_i16x8_u(high), isEntering);
		change(q, i32x4.extmul_low_i16x8_u(low, low), isEntering);
		change(q + 16, i32x4.extmul_high_i16x8_u(low, low), isEntering);
		change(q + 32, i32x4.extmul_low_i16x8_u(high, high), isEntering);
		change(q + 48, i32x4.extmul_high_i16x8_u(high, high), isEntering);
	}
}

/**
 * Sums of whole square cells of a plane, and sums of their squares.
 *
 * @param scratch room for two rows of 32-bit numbers, each as long as the plane is wide and up to 16 more
 */
export function cellSums(
	source: usize,
	width: i32,
	side: i32,
	columns: i32,
	rows: i32,
	sums: usize,
	squares: usize,
	scratch: usize
): void {
	const padded = (width + 15) & ~15;
	const columnSums = scratch;
	const columnSquares = scratch + (padded << 2);
	for (let row = 0; row < rows; row++) {
		memory.fill(scratch, 0, padded << 3);
		for (let y = row * side; y < (row + 1) * side; y++) {
			changeColumns(source + y * width, columnSums, columnSquares, padded, true);
		}
		for (let column = 0; column < columns; column++) {
			let sum: u32 = 0;
			let square: u32 = 0;
			for (let x = column * side; x < (column + 1) * side; x++) {
				sum += load<u32>(columnSums + (x << 2));
				square += load<u32>(columnSquares + (x << 2));
			}
			const o = (row * columns + column) << 2;
			store<u32>(sums + o, sum);
			store<u32>(squares + o, square);
		}
	}
}

/**
 * Marks with 1 what is darker than the threshold of its window. Sums over windows are differences of running sums, which
 * may overflow 32 bits: the differences are right all the same.
 *
 * @param source with 16 bytes to spare
 * @param ink all 0 before
 * @param scratch room for four rows of 32-bit numbers, each as long as the plane is wide and up to 17 more
 */
export function threshold(
	source: usize,
	width: i32,
	height: i32,
	radius: i32,
	paper: i32,
	k: f64,
	clearance: f64,
	spread: f64,
	darkest: f64,
	leastStep: f64,
	solid: f64,
	ink: usize,
	scratch: usize
): void {
	const padded = (width + 15) & ~15;
	const columnSums = scratch;
	const columnSquares = columnSums + (padded << 2);
	const sums = columnSquares + (padded << 2);
	const squares = sums + ((padded + 4) << 2);
	memory.fill(scratch, 0, padded << 3);
	store<u32>(sums, 0);
	store<u32>(squares, 0);
	const bright = i8x16.splat(<i8>paper);
	const inverse = 1 / spread;
	for (let y = 0; y < min(radius, height); y++)
		changeColumns(source + y * width, columnSums, columnSquares, padded, true);
	for (let y = 0; y < height; y++) {
		if (y + radius < height)
			changeColumns(source + (y + radius) * width, columnSums, columnSquares, padded, true);
		if (y - radius - 1 >= 0)
			changeColumns(source + (y - radius - 1) * width, columnSums, columnSquares, padded, false);
		let sum: u32 = 0;
		let square: u32 = 0;
		for (let x = 0; x < width << 2; x += 4) {
			sum += load<u32>(columnSums + x);
			square += load<u32>(columnSquares + x);
			store<u32>(sums + x, sum, 4);
			store<u32>(squares + x, square, 4);
		}
		const rows = min(height, y + radius + 1) - max(0, y - radius);
		const inside = 1 / <f64>(rows * (2 * radius + 1));
		const row = source + y * width;
		for (let x0 = 0; x0 < width; x0 += 16) {
			// Paper that came out white is never ink: most pixels end here.
			let marks = i8x16.bitmask(i8x16.le_u(v128.load(row + x0), bright));
			while (marks) {
				const x = x0 + ctz(marks);
				marks &= marks - 1;
				if (x >= width) break;
				const v = <f64>load<u8>(row + x);
				const left = max(x - radius, 0);
				const right = min(x + radius + 1, width);
				const n = right - left == 2 * radius + 1 ? inside : 1 / <f64>(rows * (right - left));
				const mean = <f64>(load<u32>(sums + (right << 2)) - load<u32>(sums + (left << 2))) * n;
				const meanSquare = <f64>(load<u32>(squares + (right << 2)) - load<u32>(squares + (left << 2))) * n;
				const s = Math.sqrt(Math.max(0, meanSquare - mean * mean));
				const limit = Math.min(mean - k * (1 - s * inverse) * (mean - darkest), mean - clearance * s);
				const isSolid = mean < solid && v < solid;
				if (isSolid || (v < limit && mean - v > leastStep)) store<u8>(ink + y * width + x, 1);
			}
		}
	}
}
