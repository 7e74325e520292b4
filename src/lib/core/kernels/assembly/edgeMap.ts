import { boxBlur } from './boxBlur';

/** Bright and colourless is paper: the mean of luma and of the weakest channel. Four pixels at a time. */
function paperLikeness(source: usize, size: i32, channels: i32, out: usize): void {
	// The first bytes of four pixels into the lowest bytes of four lanes; the other two channels lie behind them.
	const red =
		channels === 3
			? i8x16(0, -1, -1, -1, 3, -1, -1, -1, 6, -1, -1, -1, 9, -1, -1, -1)
			: i8x16(0, -1, -1, -1, 4, -1, -1, -1, 8, -1, -1, -1, 12, -1, -1, -1);
	const green = i8x16.add(red, i8x16(1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0));
	const blue = i8x16.add(red, i8x16(2, 0, 0, 0, 2, 0, 0, 0, 2, 0, 0, 0, 2, 0, 0, 0));
	const half = f32x4.splat(0.5);
	for (let i = 0; i < size; i += 4) {
		const pixels = v128.load(source);
		const r = f32x4.convert_i32x4_u(i8x16.swizzle(pixels, red));
		const g = f32x4.convert_i32x4_u(i8x16.swizzle(pixels, green));
		const b = f32x4.convert_i32x4_u(i8x16.swizzle(pixels, blue));
		const luma = f32x4.add(
			f32x4.add(f32x4.mul(f32x4.splat(0.299), r), f32x4.mul(f32x4.splat(0.587), g)),
			f32x4.mul(f32x4.splat(0.114), b)
		);
		const least = f32x4.min(r, f32x4.min(g, b));
		v128.store(out, f32x4.add(f32x4.mul(half, luma), f32x4.mul(half, least)));
		source += channels << 2;
		out += 16;
	}
}

function at(row: usize, x: i32): v128 {
	return v128.load(row + (x << 2));
}

function binomial(a: v128, b: v128, c: v128, d: v128, e: v128): v128 {
	const four = f32x4.splat(4);
	const six = f32x4.splat(6);
	const sum = f32x4.add(f32x4.add(f32x4.add(a, e), f32x4.mul(four, f32x4.add(b, d))), f32x4.mul(six, c));
	return f32x4.mul(sum, f32x4.splat(0.0625));
}

/** Weights 1 4 6 4 1 both ways; border pixels are repeated outward. @param line room for a row and 8 more floats */
function binomialBlur(source: usize, width: i32, height: i32, line: usize, across: usize, out: usize): void {
	const bytes = width << 2;
	for (let y = 0; y < height; y++) {
		const row = source + y * bytes;
		memory.copy(line + 16, row, bytes);
		const first = load<f32>(row);
		const last = load<f32>(row + bytes - 4);
		store<f32>(line + 8, first);
		store<f32>(line + 12, first);
		store<f32>(line + 16 + bytes, last);
		store<f32>(line + 20 + bytes, last);
		const to = across + y * bytes;
		for (let x = 0; x < width; x += 4) {
			v128.store(
				to + (x << 2),
				binomial(at(line, x + 2), at(line, x + 3), at(line, x + 4), at(line, x + 5), at(line, x + 6))
			);
		}
	}
	for (let y = 0; y < height; y++) {
		const a = across + max(y - 2, 0) * bytes;
		const b = across + max(y - 1, 0) * bytes;
		const c = across + y * bytes;
		const d = across + min(y + 1, height - 1) * bytes;
		const e = across + min(y + 2, height - 1) * bytes;
		for (let x = 0; x < width; x += 4) {
			v128.store(out + y * bytes + (x << 2), binomial(at(a, x), at(b, x), at(c, x), at(d, x), at(e, x)));
		}
	}
}

/** Scharr's derivatives, and their length; the rim stays 0. */
function gradients(paper: usize, width: i32, height: i32, gx: usize, gy: usize, length: usize): void {
	const bytes = width << 2;
	const three = f32x4.splat(3);
	const ten = f32x4.splat(10);
	const share = f32x4.splat(1 / 32);
	for (let y = 1; y < height - 1; y++) {
		const o = y * bytes;
		const above = paper + o - bytes;
		const here = paper + o;
		const under = paper + o + bytes;
		for (let x = 1; x < width - 1; x += 4) {
			const a = at(above, x - 1);
			const b = at(above, x);
			const c = at(above, x + 1);
			const d = at(here, x - 1);
			const f = at(here, x + 1);
			const g = at(under, x - 1);
			const h = at(under, x);
			const k = at(under, x + 1);
			const dx = f32x4.mul(
				share,
				f32x4.add(
					f32x4.add(f32x4.mul(three, f32x4.sub(c, a)), f32x4.mul(ten, f32x4.sub(f, d))),
					f32x4.mul(three, f32x4.sub(k, g))
				)
			);
			const dy = f32x4.mul(
				share,
				f32x4.add(
					f32x4.add(f32x4.mul(three, f32x4.sub(g, a)), f32x4.mul(ten, f32x4.sub(h, b))),
					f32x4.mul(three, f32x4.sub(k, c))
				)
			);
			const p = o + (x << 2);
			v128.store(gx + p, dx);
			v128.store(gy + p, dy);
			v128.store(length + p, f32x4.sqrt(f32x4.add(f32x4.mul(dx, dx), f32x4.mul(dy, dy))));
		}
		// The last group may have reached over the right rim and the left one of the next row.
		for (let x = width - 1; x < width + 3; x++) {
			const p = o + (x << 2);
			store<f32>(gx + p, 0);
			store<f32>(gy + p, 0);
			store<f32>(length + p, 0);
		}
	}
}

/**
 * The paper of a picture, blurred, and its gradients, each divided by the mean one around it and a floor. All planes
 * have `width x height` floats, gradients are 0 before.
 *
 * @param scratch room for three planes and a row, with 48 floats to spare
 */
export function edges(
	source: usize,
	width: i32,
	height: i32,
	channels: i32,
	radius: i32,
	floor: f64,
	paper: usize,
	gx: usize,
	gy: usize,
	scratch: usize
): void {
	const size = width * height;
	const plane = (size << 2) + 64;
	const length = scratch + plane;
	const row = scratch + 3 * plane;
	paperLikeness(source, size, channels, scratch);
	binomialBlur(scratch, width, height, row, scratch + plane, paper);
	memory.fill(length, 0, plane);
	gradients(paper, width, height, gx, gy, length);
	const ordinary = scratch + 2 * plane;
	boxBlur(length, width, height, radius, scratch, row, ordinary);
	const least = f32x4.splat(<f32>floor);
	for (let i = 0; i < size << 2; i += 16) {
		const unit = f32x4.div(f32x4.splat(1), f32x4.add(v128.load(ordinary + i), least));
		v128.store(gx + i, f32x4.mul(v128.load(gx + i), unit));
		v128.store(gy + i, f32x4.mul(v128.load(gy + i), unit));
	}
}
