/** Half the size both ways, each pixel the mean of four. */
export function halve(source: usize, width: i32, w: i32, h: i32, out: usize): void {
	const two = i16x8.splat(2);
	for (let y = 0; y < h; y++) {
		const upper = source + 2 * y * width;
		const lower = upper + width;
		const to = out + y * w;
		let x = 0;
		for (; x + 8 <= w; x += 8) {
			const sum = i16x8.add(
				i16x8.extadd_pairwise_i8x16_u(v128.load(upper + 2 * x)),
				i16x8.extadd_pairwise_i8x16_u(v128.load(lower + 2 * x))
			);
			const mean = i16x8.shr_u(i16x8.add(sum, two), 2);
			v128.store64_lane(to + x, i8x16.narrow_i16x8_u(mean, mean), 0);
		}
		for (; x < w; x++) {
			const p = 2 * x;
			const sum =
				<i32>load<u8>(upper + p) + load<u8>(upper + p + 1) + load<u8>(lower + p) + load<u8>(lower + p + 1);
			store<u8>(to + x, <u8>((sum + 2) >> 2));
		}
	}
}
