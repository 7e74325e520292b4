/** The pixels of ink among 16, as bits. */
function marksAt(ink: usize, left: i32): i32 {
	const marks = i8x16.bitmask(i8x16.ne(v128.load(ink), i8x16.splat(0)));
	return left < 16 ? marks & ((1 << left) - 1) : marks;
}

/** The level that the darkest part of the ink is under. @param histogram room for 256 32-bit numbers */
function usualInk(ink: usize, source: usize, size: i32, darkest: i32, histogram: usize): i32 {
	memory.fill(histogram, 0, 1024);
	let total: u32 = 0;
	for (let i = 0; i < size; i += 16) {
		let marks = marksAt(ink + i, size - i);
		total += popcnt(marks);
		while (marks) {
			const bin = histogram + ((<u32>load<u8>(source + i + ctz(marks))) << 2);
			store<u32>(bin, load<u32>(bin) + 1);
			marks &= marks - 1;
		}
	}
	let seen: u32 = 0;
	for (let v = 0; v < 256; v++) {
		seen += load<u32>(histogram + (v << 2));
		if (seen * darkest > total) return v;
	}
	return 0;
}

/**
 * Takes ink away that has nothing dark near it.
 *
 * @param cell side in pixels of the cells of `certain` and `near`, which have `columns` in a row, one cell more all
 *   around than the page needs, and are all 0 before
 * @param scratch room for 256 32-bit numbers and two bytes for each column
 * @returns the grey level from which ink is certain
 */
export function dropFaint(
	ink: usize,
	source: usize,
	width: i32,
	height: i32,
	level: f64,
	darkest: i32,
	cell: i32,
	columns: i32,
	certain: usize,
	near: usize,
	scratch: usize
): f64 {
	const limit = 255 - level * <f64>(255 - usualInk(ink, source, width * height, darkest, scratch));
	const columnOf = scratch + 1024;
	for (let x = 0; x < width; x++) store<u16>(columnOf + (x << 1), <u16>(x / cell));
	for (let y = 0; y < height; y++) {
		const row = (y / cell + 1) * columns + 1;
		for (let x0 = 0; x0 < width; x0 += 16) {
			const at = y * width + x0;
			let marks = marksAt(ink + at, width - x0);
			while (marks) {
				const k = ctz(marks);
				marks &= marks - 1;
				if (<f64>load<u8>(source + at + k) > limit) continue;
				const here = row + load<u16>(columnOf + ((x0 + k) << 1));
				if (load<u8>(certain + here)) continue;
				store<u8>(certain + here, 1);
				for (let c = near + here - columns - 1; c <= near + here + columns - 1; c += columns) {
					store<u8>(c, 1);
					store<u8>(c, 1, 1);
					store<u8>(c, 1, 2);
				}
			}
		}
	}
	for (let y = 0; y < height; y++) {
		const row = near + (y / cell + 1) * columns + 1;
		for (let x0 = 0; x0 < width; x0 += 16) {
			const at = ink + y * width + x0;
			let marks = marksAt(at, width - x0);
			while (marks) {
				const k = ctz(marks);
				marks &= marks - 1;
				if (!load<u8>(row + load<u16>(columnOf + ((x0 + k) << 1)))) store<u8>(at + k, 0);
			}
		}
	}
	return limit;
}

/** Turns 1 for ink into black and 0 for paper into white. */
export function paint(ink: usize, count: i32): void {
	const none = i8x16.splat(0);
	for (let i = 0; i < count; i += 16) v128.store(ink + i, i8x16.eq(v128.load(ink + i), none));
}
