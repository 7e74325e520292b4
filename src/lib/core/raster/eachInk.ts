import { inkRuns } from './inkRuns';

/**
 * Visits every pixel of ink, in the order in which they lie.
 *
 * @param ink 0 for paper, row-major
 */
export function eachInk(ink: Uint8Array, width: number, visit: (i: number) => void): void {
	const runs = inkRuns(ink, width, ink.length / width);
	for (let r = 0; r < runs.length; r += 2) {
		for (let i = runs[r]!, end = runs[r + 1]!; i < end; i++) visit(i);
	}
}
