function larger(a: v128, b: v128, isLargest: bool): v128 {
	return isLargest ? f32x4.pmax(a, b) : f32x4.pmin(a, b);
}

/** The largest value of each square window, or the smallest. @param line room for a row and `2 * radius + 4` floats */
export function extremum(
	source: usize,
	width: i32,
	height: i32,
	radius: i32,
	isLargest: i32,
	line: usize,
	across: usize,
	out: usize
): void {
	const bytes = width << 2;
	const row = line + (radius << 2);
	for (let y = 0; y < height; y++) {
		const from = source + y * bytes;
		memory.copy(row, from, bytes);
		// Beyond the ends the end is repeated: no value is larger or smaller for that.
		const first = load<f32>(from);
		const last = load<f32>(from + bytes - 4);
		for (let k = 0; k < radius; k++) store<f32>(line + (k << 2), first);
		for (let k = 0; k < radius + 3; k++) store<f32>(row + bytes + (k << 2), last);
		for (let x = 0; x < bytes; x += 16) {
			let v = v128.load(line + x);
			for (let k = 1; k <= 2 * radius; k++) v = larger(v, v128.load(line + x + (k << 2)), isLargest != 0);
			v128.store(across + y * bytes + x, v);
		}
	}
	for (let y = 0; y < height; y++) {
		const end = min(height - 1, y + radius);
		for (let x = 0; x < bytes; x += 16) {
			let v = v128.load(across + y * bytes + x);
			for (let k = max(0, y - radius); k <= end; k++)
				v = larger(v, v128.load(across + k * bytes + x), isLargest != 0);
			v128.store(out + y * bytes + x, v);
		}
	}
}
