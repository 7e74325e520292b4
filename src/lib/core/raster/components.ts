import { connectedRuns } from './connectedRuns';

/** One connected group of ink. */
export interface Component {
	/** Left, top, and one past right and bottom, in pixels. */
	readonly x0: number;
	readonly y0: number;
	readonly x1: number;
	readonly y1: number;
	/** Pixels of ink. */
	readonly area: number;
}

/**
 * Connected groups of ink (eight neighbours).
 *
 * @param ink 1 for ink, 0 for paper, `width x height`
 * @returns the groups, and for every pixel the number of its group plus one, 0 for paper
 */
export function components(
	ink: Uint8Array,
	width: number,
	height: number
): { readonly list: Component[]; readonly labels: Int32Array } {
	const { starts, ends, root } = connectedRuns(ink, width, height);
	const number = new Int32Array(starts.length).fill(-1);
	const list: { x0: number; y0: number; x1: number; y1: number; area: number }[] = [];
	const labels = new Int32Array(width * height);
	for (let i = 0; i < starts.length; i++) {
		const first = root(i);
		const y = Math.floor(starts[i]! / width);
		const x0 = starts[i]! - y * width;
		const x1 = ends[i]! - y * width;
		if (number[first]! < 0) number[first] = list.push({ x0, y0: y, x1, y1: y + 1, area: 0 }) - 1;
		const n = number[first]!;
		const c = list[n]!;
		c.x0 = Math.min(c.x0, x0);
		c.x1 = Math.max(c.x1, x1);
		c.y1 = y + 1;
		c.area += x1 - x0;
		labels.fill(n + 1, starts[i]!, ends[i]!);
	}
	return { list, labels };
}

/**
 * Visits every pixel of one group, in the order in which they lie.
 *
 * @param labels as `components` gives them, of a picture `width` wide
 * @param index of the group in the list
 */
export function eachPixelOf(
	{ x0, y0, x1, y1 }: Component,
	index: number,
	labels: Int32Array,
	width: number,
	visit: (i: number) => void
): void {
	for (let y = y0; y < y1; y++) {
		for (let i = y * width + x0; i < y * width + x1; i++) if (labels[i] === index + 1) visit(i);
	}
}
