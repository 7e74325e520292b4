import type { Plane } from '../raster/picture';

/**
 * Removes what is too small or too faint to be writing, in place: connected groups of ink (eight
 * neighbours) of fewer than `leastArea` pixels, and groups without a pixel as dark as `limit`.
 *
 * Runs are joined row by row with union-find (He, Chao and Suzuki 2008).
 *
 * @param ink 1 for ink, 0 for paper; changed
 * @param grey the page the ink was found on, same size
 * @param lonely which dots far from writing go too
 */
export function removeSpecks(
	ink: Uint8Array,
	grey: Plane,
	leastArea: number,
	limit = 255,
	lonely: Lonely | null = null
): void {
	const { width, height, data } = grey;
	const starts: number[] = [];
	const ends: number[] = [];
	const parent: number[] = [];
	const area: number[] = [];
	const darkest: number[] = [];
	const find = (i: number): number => {
		while (parent[i] !== i) {
			parent[i] = parent[parent[i]!]!;
			i = parent[i]!;
		}
		return i;
	};
	let above = 0;
	for (let y = 0; y < height; y++) {
		const rowStart = starts.length;
		let overlapFrom = above;
		for (let x = 0; x < width;) {
			if (!ink[y * width + x]) {
				x++;
				continue;
			}
			const from = x;
			let dark = 255;
			while (x < width && ink[y * width + x]) {
				const v = data[y * width + x]!;
				if (v < dark) dark = v;
				x++;
			}
			const id = starts.length;
			starts.push(y * width + from);
			ends.push(y * width + x);
			parent.push(id);
			area.push(x - from);
			darkest.push(dark);
			while (overlapFrom < rowStart && ends[overlapFrom]! - (y - 1) * width < from) overlapFrom++;
			for (let k = overlapFrom; k < rowStart && starts[k]! - (y - 1) * width <= x; k++) {
				const a = find(k);
				const b = find(id);
				if (a === b) continue;
				parent[b] = a;
				area[a]! += area[b]!;
				darkest[a] = Math.min(darkest[a]!, darkest[b]!);
			}
		}
		above = rowStart;
	}
	const company = lonely ? cellsWithWriting() : null;
	for (let i = 0; i < starts.length; i++) {
		const root = find(i);
		const isSpeck = area[root]! < leastArea || darkest[root]! > limit;
		if (isSpeck || (company && area[root]! < lonely!.area && !company(starts[i]!))) {
			ink.fill(0, starts[i]!, ends[i]!);
		}
	}

	/** Whether there is writing in the cell of a pixel or in those around it. */
	function cellsWithWriting(): (pixel: number) => boolean {
		const { cell } = lonely!;
		const columns = Math.ceil(width / cell) + 2;
		const marks = new Uint8Array(columns * (Math.ceil(height / cell) + 2));
		const cellOf = (pixel: number) => {
			const y = Math.floor(pixel / width);
			return (Math.floor(y / cell) + 1) * columns + Math.floor((pixel - y * width) / cell) + 1;
		};
		for (let i = 0; i < starts.length; i++) {
			if (area[find(i)]! >= lonely!.area) marks[cellOf(starts[i]!)] = marks[cellOf(ends[i]! - 1)] = 1;
		}
		return (pixel) => {
			const c = cellOf(pixel);
			for (let dy = -columns; dy <= columns; dy += columns) {
				if (marks[c + dy - 1] || marks[c + dy] || marks[c + dy + 1]) return true;
			}
			return false;
		};
	}
}

/** Dots that keep no company with writing are dust, or crossings of a squared paper's lines. */
export interface Lonely {
	/** Groups of at least this many pixels are writing; smaller ones are dots. */
	readonly area: number;
	/** Dots keep company with writing in their own square of so many pixels and the eight around it. */
	readonly cell: number;
}
