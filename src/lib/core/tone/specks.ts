import { connectedRuns } from '../raster/connectedRuns';
import type { Plane } from '../raster/picture';

/**
 * Removes what is too small or too faint to be writing, in place: connected groups of ink (eight
 * neighbours) of fewer than `leastArea` pixels, and groups without a pixel as dark as `limit`.
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
	const { starts, ends, root } = connectedRuns(ink, width, height);
	const area = new Uint32Array(starts.length);
	const darkest = new Uint8Array(starts.length).fill(255);
	for (let i = 0; i < starts.length; i++) {
		const first = root(i);
		area[first]! += ends[i]! - starts[i]!;
		for (let p = starts[i]!; p < ends[i]!; p++) if (data[p]! < darkest[first]!) darkest[first] = data[p]!;
	}
	const company = lonely ? cellsWithWriting() : null;
	for (let i = 0; i < starts.length; i++) {
		const first = root(i);
		const isSpeck = area[first]! < leastArea || darkest[first]! > limit;
		if (isSpeck || (company && area[first]! < lonely!.area && !company(starts[i]!))) {
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
			if (area[root(i)]! >= lonely!.area) marks[cellOf(starts[i]!)] = marks[cellOf(ends[i]! - 1)] = 1;
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
