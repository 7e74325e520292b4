const UNIT: i32 = 12;

function interpolateRow(map: usize, row: usize, columns: i32, y: i32, height: i32, rows: i32): void {
	const at = min(max(((<f64>y + 0.5) * <f64>rows) / <f64>height - 0.5, 0.0), <f64>(rows - 1));
	const y0 = <i32>at;
	const y1 = min(y0 + 1, rows - 1);
	const f = at - <f64>y0;
	const upper = map + ((y0 * columns) << 2);
	const lower = map + ((y1 * columns) << 2);
	const one = f64x2.splat(1 - f);
	const other = f64x2.splat(f);
	for (let o = 0; o < columns << 2; o += 8) {
		const a = f64x2.mul(f64x2.promote_low_f32x4(v128.load64_zero(upper + o)), one);
		const b = f64x2.mul(f64x2.promote_low_f32x4(v128.load64_zero(lower + o)), other);
		v128.store64_lane(row + o, f32x4.demote_f64x2_zero(f64x2.add(a, b)), 0);
	}
}

/**
 * From the gains of a row of blocks, the gain of the first pixel from the middle of each block on, and its change from one
 * pixel to the next, as whole numbers. Before the middle of the first block, which comes first, and behind that of the
 * last, the gain stays as it is there.
 *
 * @param row the gains, with room for one more
 * @param offsets from the middle of each block to the middle of its first pixel, in double precision
 */
function ramps(row: usize, offsets: usize, columns: i32, perPixel: f64, starts: usize, steps: usize): void {
	const share = f64x2.splat(perPixel);
	store<f32>(row + (columns << 2), load<f32>(row + ((columns - 1) << 2)));
	store<i32>(starts, <i32>load<f32>(row));
	store<i32>(steps, 0);
	for (let b = 0; b < columns; b += 2) {
		const at = b << 2;
		const here = f64x2.promote_low_f32x4(v128.load64_zero(row + at));
		const next = f64x2.promote_low_f32x4(v128.load64_zero(row + at + 4));
		const by = i32x4.trunc_sat_f64x2_s_zero(f64x2.mul(f64x2.sub(next, here), share));
		const moved = f64x2.mul(v128.load(offsets + (b << 3)), f64x2.convert_low_i32x4_s(by));
		v128.store64_lane(steps + at + 4, by, 0);
		v128.store64_lane(starts + at + 4, i32x4.trunc_sat_f64x2_s_zero(f64x2.add(here, moved)), 0);
	}
}

function ramp(start: usize, by: v128): v128 {
	return i32x4.add(v128.load32_splat(start), i32x4.mul(by, i32x4(0, 1, 2, 3)));
}

/** One channel of four pixels as 32-bit numbers; P as in flatten.ts. */
function red<P>(pixels: v128): v128 {
	return sizeof<P>() == 4
		? v128.swizzle(pixels, i8x16(0, -1, -1, -1, 4, -1, -1, -1, 8, -1, -1, -1, 12, -1, -1, -1))
		: v128.swizzle(pixels, i8x16(0, -1, -1, -1, 3, -1, -1, -1, 6, -1, -1, -1, 9, -1, -1, -1));
}

function green<P>(pixels: v128): v128 {
	return sizeof<P>() == 4
		? v128.swizzle(pixels, i8x16(1, -1, -1, -1, 5, -1, -1, -1, 9, -1, -1, -1, 13, -1, -1, -1))
		: v128.swizzle(pixels, i8x16(1, -1, -1, -1, 4, -1, -1, -1, 7, -1, -1, -1, 10, -1, -1, -1));
}

function blue<P>(pixels: v128): v128 {
	return sizeof<P>() == 4
		? v128.swizzle(pixels, i8x16(2, -1, -1, -1, 6, -1, -1, -1, 10, -1, -1, -1, 14, -1, -1, -1))
		: v128.swizzle(pixels, i8x16(2, -1, -1, -1, 5, -1, -1, -1, 8, -1, -1, -1, 11, -1, -1, -1));
}

/**
 * Multiplies each channel by its gain, which is given at low resolution and runs in straight lines in between.
 *
 * @param map gains of red, green and blue one after the other, `columns x rows` floats each
 * @param rgb where the colours go, with 16 bytes to spare; 0 when only grey is wanted
 * @param scratch room for ten rows of gains, each with four more
 */
export function evenLight(
	source: usize,
	channels: i32,
	width: i32,
	height: i32,
	map: usize,
	columns: i32,
	rows: i32,
	rgb: usize,
	grey: usize,
	scratch: usize
): void {
	if (channels == 4) even<u32>(source, 4, width, height, map, columns, rows, rgb, grey, scratch);
	else even<u8>(source, 3, width, height, map, columns, rows, rgb, grey, scratch);
}

function even<P>(
	source: usize,
	channels: i32,
	width: i32,
	height: i32,
	map: usize,
	columns: i32,
	rows: i32,
	rgb: usize,
	grey: usize,
	scratch: usize
): void {
	const plane = (columns * rows) << 2;
	const line = (columns + 4) << 2;
	// A row of gains; starts and steps of the three channels; where blocks end and how far their first pixel is off.
	const row = scratch;
	const starts = row + line;
	const steps = starts + 3 * line;
	const ends = steps + 3 * line;
	const offsets = (ends + line + 7) & ~7;
	const block = <f64>width / <f64>columns;
	const perPixel = 1 / block;
	let first = 0;
	for (let b = -1; b < columns; b++) {
		if (b >= 0) store<f64>(offsets + (b << 3), <f64>first + 0.5 - (<f64>b + 0.5) * block);
		first = b == columns - 1 ? width : <i32>Math.ceil((<f64>b + 1.5) * block - 0.5);
		store<i32>(ends + ((b + 1) << 2), first);
	}
	const full = i32x4.splat(255);
	const half = i32x4.splat(32768);
	let p = source;
	let q = rgb;
	let o = grey;
	for (let y = 0; y < height; y++) {
		for (let c = 0; c < 3; c++) {
			interpolateRow(map + c * plane, row, columns, y, height, rows);
			ramps(row, offsets, columns, perPixel, starts + c * line, steps + c * line);
		}
		let to = 0;
		for (let b = -1; b < columns; b++) {
			const from = to;
			to = load<i32>(ends + ((b + 1) << 2));
			const i = (b + 1) << 2;
			const stepRed = v128.load32_splat(steps + i);
			const stepGreen = v128.load32_splat(steps + line + i);
			const stepBlue = v128.load32_splat(steps + 2 * line + i);
			let gainRed = ramp(starts + i, stepRed);
			let gainGreen = ramp(starts + line + i, stepGreen);
			let gainBlue = ramp(starts + 2 * line + i, stepBlue);
			const byRed = i32x4.shl(stepRed, 2);
			const byGreen = i32x4.shl(stepGreen, 2);
			const byBlue = i32x4.shl(stepBlue, 2);
			// The last group of four may reach beyond the block; what it writes there is written again by the next one.
			for (let x = from; x < to; x += 4) {
				const pixels = v128.load(p);
				const r = i32x4.min_s(i32x4.shr_s(i32x4.mul(red<P>(pixels), gainRed), UNIT), full);
				const g = i32x4.min_s(i32x4.shr_s(i32x4.mul(green<P>(pixels), gainGreen), UNIT), full);
				const bl = i32x4.min_s(i32x4.shr_s(i32x4.mul(blue<P>(pixels), gainBlue), UNIT), full);
				const luma = i32x4.shr_s(
					i32x4.add(
						i32x4.add(i32x4.mul(r, i32x4.splat(19595)), i32x4.mul(g, i32x4.splat(38470))),
						i32x4.add(i32x4.mul(bl, i32x4.splat(7471)), half)
					),
					16
				);
				v128.store32_lane(
					o,
					v128.swizzle(luma, i8x16(0, 4, 8, 12, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1)),
					0
				);
				if (rgb) {
					const colours = v128.or(r, v128.or(i32x4.shl(g, 8), i32x4.shl(bl, 16)));
					v128.store(q, v128.swizzle(colours, i8x16(0, 1, 2, 4, 5, 6, 8, 9, 10, 12, 13, 14, -1, -1, -1, -1)));
				}
				const count = min(4, to - x);
				p += count * channels;
				q += count * 3;
				o += count;
				gainRed = i32x4.add(gainRed, byRed);
				gainGreen = i32x4.add(gainGreen, byGreen);
				gainBlue = i32x4.add(gainBlue, byBlue);
			}
		}
	}
}
