/**
 * Averages the samples of one row of cells.
 *
 * @param rows the rows that are sampled, one after the other, `down` of them, with a byte to spare
 * @param columns offsets in bytes of the columns, `across` for each cell
 * @param out three bytes a cell, and one to spare
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
	const half = i16x8.splat(<i16>((across * down) >> 1));
	const share = f32x4.splat(1 / <f32>(across * down));
	const inBetween = f32x4.splat(0.5);
	const end = rows + down * stride;
	for (let x = 0; x < width; x++) {
		let sum = half;
		for (let i = 0; i < across; i++) {
			for (let pixel = rows + load<i32>(columns); pixel < end; pixel += stride) {
				sum = i16x8.add(sum, i16x8.extend_low_i8x16_u(v128.load32_zero(pixel)));
			}
			columns += 4;
		}
		// Half a grey level of one sample more keeps whole numbers from rounding down.
		const mean = f32x4.mul(f32x4.add(f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(sum)), inBetween), share);
		const shorts = i16x8.narrow_i32x4_u(i32x4.trunc_sat_f32x4_u(mean), half);
		v128.store32_lane(out, i8x16.narrow_i16x8_u(shorts, half), 0);
		out += 3;
	}
}
