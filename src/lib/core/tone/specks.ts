import type { Plane } from '../raster/picture';

/**
 * Removes what is too small or too faint to be writing, in place: connected groups of ink (eight
 * neighbours) of fewer than `leastArea` pixels, and groups without a pixel as dark as `limit`.
 *
 * Runs are joined row by row with union-find (He, Chao and Suzuki 2008).
 *
 * @param ink 1 for ink, 0 for paper; changed
 * @param grey the page the ink was found on, same size
 */
export function removeSpecks(ink: Uint8Array, grey: Plane, leastArea: number, limit = 255): void {
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
	for (let i = 0; i < starts.length; i++) {
		const root = find(i);
		if (area[root]! < leastArea || darkest[root]! > limit) ink.fill(0, starts[i]!, ends[i]!);
	}
}
