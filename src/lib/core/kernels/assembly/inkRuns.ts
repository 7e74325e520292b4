/**
 * Writes the first pixel of each run of ink and one past its last, row by row, as pairs of 32-bit numbers.
 *
 * @param ink 0 or 1 a pixel, with 16 bytes to spare
 * @returns how many runs there are
 */
export function inkRuns(ink: usize, width: i32, height: i32, out: usize): i32 {
	const first = out;
	const none = i8x16.splat(0);
	for (let y = 0; y < height; y++) {
		const row = y * width;
		let inside = 0;
		for (let x0 = 0; x0 < width; x0 += 16) {
			let marks = i8x16.bitmask(i8x16.ne(v128.load(ink + row + x0), none));
			if (width - x0 < 16) marks &= (1 << (width - x0)) - 1;
			// A bit is set where ink begins or ends.
			let changes = marks ^ ((marks << 1) | inside);
			inside = (marks >> 15) & 1;
			changes &= 0xffff;
			while (changes) {
				store<i32>(out, row + x0 + ctz(changes));
				out += 4;
				changes &= changes - 1;
			}
		}
		// A run up to the end of the row, where the row ends with a full group of sixteen.
		if ((width & 15) == 0 && inside) {
			store<i32>(out, row + width);
			out += 4;
		}
	}
	return <i32>((out - first) >> 3);
}
