import { gaussianBlur } from '../raster/boxBlur';
import { toFloat } from '../raster/floatPlane';
import { percentile } from '../raster/percentile';
import type { Plane } from '../raster/picture';

/** Deviations of the smoothed paper from which on a place counts as darker. */
const DARKER = 5.5;
/** Blur in pixels at about 100 dots an inch that strokes survive and noise does not; and what is taken for the paper. */
const STROKE = 1.6;
const PAPER = 12;
/** Less of the page than this is chance. */
const CHANCE = 0.0006;
/** Steps that a grey level is told in, and levels on both sides of the paper. */
const FINE = 16;
const LEVELS = 64;

/**
 * True when something darker than the paper is left once its noise has been smoothed away: writing that has faded until
 * it drowns in noise cannot be read off, but a page that shows traces of it is not known to be blank.
 *
 * @param page even light, paper not clipped, at about 100 dots an inch
 */
export function hasTraces(page: Plane): boolean {
	const plane = toFloat(page);
	const fine = gaussianBlur(plane, STROKE).data;
	const paper = gaussianBlur(plane, PAPER).data;
	const rim = Math.ceil(PAPER);
	const counts = new Uint32Array(2 * LEVELS * FINE);
	const size = new Uint32Array(LEVELS * FINE);
	let all = 0;
	for (let y = rim; y < page.height - rim; y++) {
		for (let x = rim; x < page.width - rim; x++) {
			const i = y * page.width + x;
			const difference = Math.max(-LEVELS, Math.min(LEVELS - 1 / FINE, fine[i]! - paper[i]!));
			counts[Math.floor((difference + LEVELS) * FINE)]!++;
			size[Math.min(size.length - 1, Math.floor(Math.abs(difference) * FINE))]!++;
			all++;
		}
	}
	if (all === 0) return false;
	const deviation = (1.4826 * (percentile(size, 0.5) + 0.5)) / FINE;
	const below = Math.floor((LEVELS - DARKER * deviation) * FINE);
	let darker = 0;
	for (let bin = 0; bin < below; bin++) darker += counts[bin]!;
	return darker > CHANCE * all;
}
