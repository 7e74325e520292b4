/**
 * Mean over a square window, as the plain version has it: running sums across, then down. The sums down are kept in
 * single precision.
 *
 * @param across room for a plane
 * @param sums room for one row
 */
export function boxBlur(
	source: usize,
	width: i32,
	height: i32,
	radius: i32,
	across: usize,
	sums: usize,
	out: usize
): void {
	const rx = min(radius, width - 1);
	const wholeX = 1 / <f64>(2 * rx + 1);
	for (let y = 0; y < height; y++) {
		const row = source + ((y * width) << 2);
		const to = across + ((y * width) << 2);
		let sum: f64 = 0;
		let x = 0;
		for (; x < rx; x++) sum += <f64>load<f32>(row + (x << 2));
		for (x = 0; x <= rx && x + rx < width; x++) {
			sum += <f64>load<f32>(row + ((x + rx) << 2));
			store<f32>(to + (x << 2), <f32>(sum / <f64>(x + rx + 1)));
		}
		for (; x + rx < width; x++) {
			sum += <f64>load<f32>(row + ((x + rx) << 2)) - <f64>load<f32>(row + ((x - rx - 1) << 2));
			store<f32>(to + (x << 2), <f32>(sum * wholeX));
		}
		for (; x < width; x++) {
			const first = x - rx;
			if (first > 0) sum -= <f64>load<f32>(row + ((first - 1) << 2));
			store<f32>(to + (x << 2), <f32>(sum / <f64>(width - max(0, first))));
		}
	}
	const ry = min(radius, height - 1);
	const bytes = width << 2;
	memory.fill(sums, 0, bytes);
	for (let y = 0; y < ry; y++) change(sums, across + y * bytes, 0, bytes);
	for (let y = 0; y < height; y++) {
		const entering = y + ry < height ? across + (y + ry) * bytes : 0;
		const leaving = y - ry - 1 >= 0 ? across + (y - ry - 1) * bytes : 0;
		change(sums, entering, leaving, bytes);
		const share = <f32>(1 / <f64>(min(height - 1, y + ry) - max(0, y - ry) + 1));
		const to = out + y * bytes;
		let x = 0;
		for (; x + 16 <= bytes; x += 16) v128.store(to + x, f32x4.mul(v128.load(sums + x), f32x4.splat(share)));
		for (; x < bytes; x += 4) store<f32>(to + x, load<f32>(sums + x) * share);
	}
}

/** Adds one row to the sums and takes another away; 0 for none. */
function change(sums: usize, entering: usize, leaving: usize, bytes: i32): void {
	let x = 0;
	for (; x + 16 <= bytes; x += 16) {
		let sum = v128.load(sums + x);
		if (entering && leaving) sum = f32x4.add(sum, f32x4.sub(v128.load(entering + x), v128.load(leaving + x)));
		else if (entering) sum = f32x4.add(sum, v128.load(entering + x));
		else if (leaving) sum = f32x4.sub(sum, v128.load(leaving + x));
		v128.store(sums + x, sum);
	}
	for (; x < bytes; x += 4) {
		let sum = load<f32>(sums + x);
		if (entering && leaving) sum += load<f32>(entering + x) - load<f32>(leaving + x);
		else if (entering) sum += load<f32>(entering + x);
		else if (leaving) sum -= load<f32>(leaving + x);
		store<f32>(sums + x, sum);
	}
}
