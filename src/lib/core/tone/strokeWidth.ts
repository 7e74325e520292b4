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
	for (let y = 0; y < height; y += 4) {
		let run = 0;
		for (let x = 0; x < width; x++) {
			if (ink[y * width + x]) run++;
			else if (run > 0) {
				if (run <= LONGEST) {
					runs[run]!++;
					total++;
				}
				run = 0;
			}
		}
	}
	return total < 20 ? 3 : Math.max(1, percentile(runs, 0.5));
}
