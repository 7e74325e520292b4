/**
 * Averages the samples of one row of cells.
 *
 * @param rows the rows that are sampled, one after the other, `down` of them, with a byte to spare
 * @param columns offsets in bytes of the columns, `across` for each cell
 * @param out three bytes a cell
 */
export function shrinkRow(
	rows: usize,
	stride: i32,
	down: i32,
	columns: usize,
	across: i32,
	width: i32,
	out: usize
): void {
	const half = i32x4.splat((across * down) >> 1);
	const share = 1 / <f64>(across * down);
	const end = rows + down * stride;
	for (let x = 0; x < width; x++) {
		let sum = half;
		for (let i = 0; i < across; i++) {
			const column = load<i32>(columns);
			columns += 4;
			for (let row = rows; row < end; row += stride) {
				const pixel = v128.load32_zero(row + column);
				sum = i32x4.add(sum, i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(pixel)));
			}
		}
		store<u8>(out, <u8>(<f64>i32x4.extract_lane(sum, 0) * share));
		store<u8>(out, <u8>(<f64>i32x4.extract_lane(sum, 1) * share), 1);
		store<u8>(out, <u8>(<f64>i32x4.extract_lane(sum, 2) * share), 2);
		out += 3;
	}
}
