/** Bins of four grey levels, and after them the same by eights: bytes, as no block has 255 samples. */
const EIGHTS = 64;

/** The bin up to which so many samples lie; found among eights of bins first. */
function percentile(histogram: usize, upTo: f64): i32 {
	let below: u32 = 0;
	let eight = 0;
	for (; eight < 7; eight++) {
		const n = load<u8>(histogram + EIGHTS + eight);
		if (below + n > 0 && <f64>(below + n) >= upTo) break;
		below += n;
	}
	for (let bin = eight * 8; bin < 63; bin++) {
		below += load<u8>(histogram + bin);
		if (below > 0 && <f64>below >= upTo) return bin;
	}
	return 63;
}

/**
 * The paper of each block: the mean of its pixels whose green lies between two percentiles.
 *
 * @param wanted 1 for the blocks that are measured
 * @param out red, green and blue one after the other, `columns x rows` floats each, all 0 before
 * @param histogram room for 80 bytes
 */
export function lightInBlocks(
	source: usize,
	width: i32,
	height: i32,
	channels: i32,
	block: i32,
	step: i32,
	columns: i32,
	rows: i32,
	wanted: usize,
	dark: f64,
	bright: f64,
	out: usize,
	histogram: usize
): void {
	const plane = (columns * rows) << 2;
	for (let by = 0; by < rows; by++) {
		const y0 = by * block;
		const y1 = min(y0 + block, height);
		for (let bx = 0; bx < columns; bx++) {
			if (!load<u8>(wanted + by * columns + bx)) continue;
			const to = out + ((by * columns + bx) << 2);
			const x0 = bx * block;
			const x1 = min(x0 + block, width);
			for (let i = 0; i < 80; i += 16) v128.store(histogram + i, i64x2.splat(0));
			let total = 0;
			for (let y = y0; y < y1; y += step) {
				let p = source + (y * width + x0) * channels + 1;
				for (let x = x0; x < x1; x += step, p += step * channels) {
					const v = <usize>load<u8>(p);
					const fine = histogram + (v >> 2);
					store<u8>(fine, load<u8>(fine) + 1);
					const coarse = histogram + EIGHTS + (v >> 5);
					store<u8>(coarse, load<u8>(coarse) + 1);
					total++;
				}
			}
			const low = percentile(histogram, dark * <f64>total) * 4;
			const high = percentile(histogram, bright * <f64>total) * 4 + 3;
			let r: i32 = 0;
			let g: i32 = 0;
			let b: i32 = 0;
			let count: i32 = 0;
			for (let y = y0; y < y1; y += step) {
				let p = source + (y * width + x0) * channels;
				for (let x = x0; x < x1; x += step, p += step * channels) {
					const v = <i32>load<u8>(p, 1);
					if (v < low || v > high) continue;
					r += load<u8>(p);
					g += v;
					b += load<u8>(p, 2);
					count++;
				}
			}
			const n = <f64>max(1, count);
			store<f32>(to, <f32>(<f64>r / n));
			store<f32>(to + plane, <f32>(<f64>g / n));
			store<f32>(to + 2 * plane, <f32>(<f64>b / n));
		}
	}
}
