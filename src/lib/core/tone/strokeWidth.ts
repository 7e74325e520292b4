import { inkRuns } from '../raster/inkRuns';
import { percentile } from '../raster/percentile';

const LONGEST = 64;

/**
 * The usual width of a pen stroke in pixels: the median length of horizontal runs of ink, between
 * 1 and 64; 3 where there is no ink. Every fourth row is enough.
 *
 * @param ink 1 for ink, 0 for paper, `width x height`
 */
export function strokeWidth(ink: Uint8Array, width: number, height: number): number {
	const runs = new Uint32Array(LONGEST + 1);
	let total = 0;
	const edges = inkRuns(ink, width, height);
	for (let i = 0; i < edges.length; i += 2) {
		const length = edges[i + 1]! - edges[i]!;
		if (length > LONGEST || ((edges[i]! / width) | 0) % 4 !== 0) continue;
		runs[length]!++;
		total++;
	}
	return total < 20 ? 3 : Math.max(1, percentile(runs, 0.5));
}
