/** Numbers kept of each tile: pixels of ink, darkness, and two tensors of three numbers, of the fine and the coarse gradient. */
const NUMBERS: i32 = 8;

function add(at: usize, value: f64): void {
	store<f64>(at, load<f64>(at) + value);
}

/**
 * Adds up what is measured on the writing of each tile.
 *
 * @param mask writing at half the size of the page, `width x height`
 * @param coarse a blurred copy of the page at half its size, floats
 * @param pageWidth of the page itself, whose samples are at `data`
 * @param columnOf the column of tiles of each column of the mask, a byte each; `rowOf` the first tile of each of its rows,
 *   two bytes each
 * @param tiles NUMBERS doubles for each tile, all 0 before
 */
export function measureTiles(
	mask: usize,
	width: i32,
	height: i32,
	coarse: usize,
	coarseWidth: i32,
	data: usize,
	pageWidth: i32,
	reach: i32,
	columnOf: usize,
	rowOf: usize,
	tiles: usize
): void {
	const far = <f64>reach;
	for (let my = reach; my < height - reach; my++) {
		const row = <i32>load<u16>(rowOf + (my << 1));
		for (let x0 = reach; x0 < width - reach; x0 += 16) {
			let marks = i8x16.bitmask(i8x16.ne(v128.load(mask + my * width + x0), i8x16.splat(0)));
			const left = width - reach - x0;
			if (left < 16) marks &= (1 << left) - 1;
			while (marks) {
				const mx = x0 + ctz(marks);
				marks &= marks - 1;
				const tile = tiles + (row + load<u8>(columnOf + mx)) * NUMBERS * 8;
				const c = coarse + ((my * coarseWidth + mx) << 2);
				const side = reach << 2;
				const down = side * coarseWidth;
				const cx = (<f64>load<f32>(c + side) - <f64>load<f32>(c - side)) / far;
				const cy = (<f64>load<f32>(c + down) - <f64>load<f32>(c - down)) / far;
				let xx = 0;
				let xy = 0;
				let yy = 0;
				let darkest = 255;
				for (let k = 0; k < 4; k++) {
					const i = data + (2 * my + (k >> 1)) * pageWidth + 2 * mx + (k & 1);
					const fx = <i32>load<u8>(i + 1) - <i32>load<u8>(i - 1);
					const fy = <i32>load<u8>(i + pageWidth) - <i32>load<u8>(i - pageWidth);
					xx += fx * fx;
					xy += fx * fy;
					yy += fy * fy;
					darkest = min(darkest, <i32>load<u8>(i));
				}
				add(tile, 1);
				add(tile + 8, <f64>(255 - darkest));
				add(tile + 16, <f64>xx);
				add(tile + 24, <f64>xy);
				add(tile + 32, <f64>yy);
				add(tile + 40, cx * cx);
				add(tile + 48, cx * cy);
				add(tile + 56, cy * cy);
			}
		}
	}
}
