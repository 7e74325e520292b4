import { withKernels, type Kernels } from '../kernels/kernels';
import { inkRuns } from '../raster/inkRuns';
import type { Plane } from '../raster/picture';

/** What counts as written for certain. */
export interface CertainInk {
	/** How far from paper towards the page's own ink a pixel must be, 0 to 1. */
	readonly level: number;
	/** The darkest one part in so many of what passed is the page's own ink; the rest may be ruling. */
	readonly darkest: number;
}

const USUAL: CertainInk = { level: 0.42, darkest: 7 };

/**
 * Drops ink with nothing dark near it, in place: ruling, squares and writing that shows through from the
 * back are all fainter than the page's own strokes, even where a threshold lets them pass. A faint
 * pixel stays where a certain one is within about `reach`, so that strokes keep their thin ends.
 *
 * @param ink 1 for ink, 0 for paper; changed
 * @returns the grey level from which ink counts as certain
 */
export function dropFaint(
	ink: Uint8Array,
	grey: Plane,
	reach: number,
	certainty: CertainInk = USUAL
): number {
	// Cells of the grid with a certain pixel in them, and their neighbours: a reach of one to two cells.
	const cell = Math.max(1, Math.round(0.7 * reach));
	const cells = { cell, columns: Math.ceil(grey.width / cell) + 2, rows: Math.ceil(grey.height / cell) + 2 };
	return withKernels(
		(kernels) => dropFaintFast(kernels, ink, grey, cells, certainty),
		() => dropFaintPlain(ink, grey, cells, certainty)
	);
}

interface Cells {
	/** Side in pixels. */
	readonly cell: number;
	/** With one more all around. */
	readonly columns: number;
	readonly rows: number;
}

function dropFaintFast(
	kernels: Kernels,
	ink: Uint8Array,
	{ width, height, data }: Plane,
	{ cell, columns, rows }: Cells,
	{ level, darkest }: CertainInk
): number {
	const at = kernels.put(ink);
	const source = kernels.put(data);
	const [certain, near] = [kernels.cleared(columns * rows), kernels.cleared(columns * rows)];
	const scratch = kernels.room(1024 + 2 * width);
	const { run } = kernels;
	const limit = run.dropFaint(
		at,
		source,
		width,
		height,
		level,
		darkest,
		cell,
		columns,
		certain,
		near,
		scratch
	);
	ink.set(kernels.view(at, ink.length));
	return limit;
}

function dropFaintPlain(
	ink: Uint8Array,
	{ width, height, data }: Plane,
	{ cell, columns, rows }: Cells,
	{ level, darkest }: CertainInk
): number {
	const runs = inkRuns(ink, width, height);
	const limit = 255 - level * (255 - usualInk(runs, data, darkest));
	const certain = new Uint8Array(columns * rows);
	const near = new Uint8Array(columns * rows);
	const columnOf = Uint16Array.from({ length: width }, (_, x) => x / cell);
	for (let r = 0; r < runs.length; r += 2) {
		const left = ((runs[r]! / width) | 0) * width;
		const row = (((left / width / cell) | 0) + 1) * columns + 1;
		for (let i = runs[r]!, end = runs[r + 1]!; i < end; i++) {
			if (data[i]! > limit) continue;
			const here = row + columnOf[i - left]!;
			if (certain[here] !== 0) continue;
			certain[here] = 1;
			for (let k = here - columns - 1; k <= here + columns + 1; k += columns) {
				near[k] = near[k + 1] = near[k + 2] = 1;
			}
		}
	}
	for (let r = 0; r < runs.length; r += 2) {
		const left = ((runs[r]! / width) | 0) * width;
		const row = (((left / width / cell) | 0) + 1) * columns + 1;
		for (let i = runs[r]!, end = runs[r + 1]!; i < end; i++) {
			if (near[row + columnOf[i - left]!] === 0) ink[i] = 0;
		}
	}
	return limit;
}

/** The level that the darkest part of the ink is under: ruling may be most of what passed. */
function usualInk(runs: Int32Array, data: Uint8Array, darkest: number): number {
	const histogram = new Uint32Array(256);
	let total = 0;
	for (let r = 0; r < runs.length; r += 2) {
		for (let i = runs[r]!; i < runs[r + 1]!; i++) histogram[data[i]!]!++;
		total += runs[r + 1]! - runs[r]!;
	}
	let seen = 0;
	for (let v = 0; v < 256; v++) {
		seen += histogram[v]!;
		if (seen * darkest > total) return v;
	}
	return 0;
}
