/** Marks with 1 what is darker than a limit. @param out with 16 bytes to spare, like the source */
export function below(source: usize, count: i32, limit: i32, out: usize): void {
	const limits = i8x16.splat(<i8>limit);
	const one = i8x16.splat(1);
	for (let i = 0; i < count; i += 16) {
		v128.store(out + i, v128.and(i8x16.lt_u(v128.load(source + i), limits), one));
	}
}

/** How many of the bytes, each 0 or 1, are 1. The 16 bytes beyond the end are set to 0. */
export function countInk(ink: usize, count: i32): i32 {
	v128.store(ink + count, i8x16.splat(0));
	let sum = i32x4.splat(0);
	for (let i = 0; i < count; i += 16) {
		const words = i16x8.extadd_pairwise_i8x16_u(v128.load(ink + i));
		sum = i32x4.add(sum, i32x4.extadd_pairwise_i16x8_u(words));
	}
	return (
		i32x4.extract_lane(sum, 0) +
		i32x4.extract_lane(sum, 1) +
		i32x4.extract_lane(sum, 2) +
		i32x4.extract_lane(sum, 3)
	);
}

/** A run that is being followed on one row or column: where it began, -1 for none, and where it was last dark. */
class Followed {
	start: i32;
	last: i32;
}

/** Goes on to pixel `i`; marks the run when it ends here and was long. @param at where the first pixel's mark is */
function follow(
	run: Followed,
	isDark: bool,
	i: i32,
	isEnd: bool,
	least: i32,
	gap: i32,
	at: usize,
	step: i32
): void {
	if (isDark) {
		if (run.start < 0) run.start = i;
		run.last = i;
	} else if (run.start >= 0 && (i - run.last > gap || isEnd)) {
		if (run.last - run.start >= least) {
			for (let k = run.start; k <= run.last; k++) store<u8>(at + k * step, 1);
		}
		run.start = -1;
	}
}

/**
 * Marks the dark pixels that are part of a long run along a row. A line that leans a little leaves its row: runs are
 * followed on the row and its neighbours.
 *
 * @param marks all 0 before
 * @param scratch room for one run
 */
export function longRunsAcross(
	dark: usize,
	width: i32,
	height: i32,
	least: i32,
	gap: i32,
	marks: usize,
	scratch: usize
): void {
	const run = changetype<Followed>(scratch);
	const none = i8x16.splat(0);
	for (let y = 1; y < height - 1; y++) {
		const row = dark + y * width;
		run.start = -1;
		for (let x0 = 0; x0 < width; x0 += 16) {
			const p = row + x0;
			const near = v128.or(v128.or(v128.load(p - width), v128.load(p)), v128.load(p + width));
			const bits = i8x16.bitmask(i8x16.ne(near, none));
			if (bits == 0 && run.start < 0) continue;
			for (let x = x0; x < min(x0 + 16, width); x++) {
				follow(run, ((bits >> (x - x0)) & 1) != 0, x, false, least, gap, marks + y * width, 1);
			}
		}
		follow(run, false, width, true, least, gap, marks + y * width, 1);
	}
}

/** The same along columns, sixteen side by side. @param scratch room for sixteen runs */
export function longRunsDown(
	dark: usize,
	width: i32,
	height: i32,
	least: i32,
	gap: i32,
	marks: usize,
	scratch: usize
): void {
	const none = i8x16.splat(0);
	for (let x0 = 1; x0 < width - 1; x0 += 16) {
		const count = min(16, width - 1 - x0);
		const all = (1 << count) - 1;
		for (let k = 0; k < count; k++) changetype<Followed>(scratch + 8 * k).start = -1;
		let open = 0;
		for (let y = 0; y <= height; y++) {
			let bits = 0;
			if (y < height) {
				const p = dark + y * width + x0;
				const near = v128.or(v128.or(v128.load(p - 1), v128.load(p)), v128.load(p + 1));
				bits = i8x16.bitmask(i8x16.ne(near, none)) & all;
			}
			let look = bits | open;
			while (look) {
				const k = ctz(look);
				look &= look - 1;
				const run = changetype<Followed>(scratch + 8 * k);
				follow(run, ((bits >> k) & 1) != 0, y, y == height, least, gap, marks + x0 + k, width);
				open = run.start < 0 ? open & ~(1 << k) : open | (1 << k);
			}
		}
	}
}

/**
 * Takes long straight lines out of a mask, but not the strokes that cross them.
 *
 * @param mask the same as `dark` before
 * @param sums two 32-bit numbers: pixels under lines, and how dark they are together
 */
export function withoutRuling(
	data: usize,
	dark: usize,
	across: usize,
	down: usize,
	width: i32,
	height: i32,
	beyond: i32,
	mask: usize,
	sums: usize
): void {
	let ruled: u32 = 0;
	let darkness: u32 = 0;
	const size = width * height;
	const none = i8x16.splat(0);
	for (let y = 0; y < height; y++) {
		for (let x0 = 0; x0 < width; x0 += 16) {
			const at = y * width + x0;
			let marks = i8x16.bitmask(i8x16.ne(v128.or(v128.load(across + at), v128.load(down + at)), none));
			while (marks) {
				const x = x0 + ctz(marks);
				marks &= marks - 1;
				if (x >= width) break;
				const i = y * width + x;
				ruled++;
				darkness += 255 - load<u8>(data + i);
				if (!load<u8>(mask + i)) continue;
				const above = i - beyond * width;
				const under = i + beyond * width;
				const crossedDown =
					(above >= 0 && load<u8>(dark + above) && !load<u8>(down + above)) ||
					(under < size && load<u8>(dark + under) && !load<u8>(down + under));
				const left = x >= beyond ? i - beyond : i;
				const right = x + beyond < width ? i + beyond : i;
				const crossedAcross =
					(load<u8>(dark + left) && !load<u8>(across + left)) ||
					(load<u8>(dark + right) && !load<u8>(across + right));
				if ((load<u8>(across + i) && !crossedDown) || (load<u8>(down + i) && !crossedAcross)) {
					store<u8>(mask + i, 0);
				}
			}
		}
	}
	store<u32>(sums, ruled);
	store<u32>(sums, darkness, 4);
}
