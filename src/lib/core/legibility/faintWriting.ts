import { countInk } from '../raster/below';
import { halve } from '../raster/halve';
import type { Picture, Plane } from '../raster/picture';
import { evenGrey } from '../tone/evenLight';
import type { Illumination } from '../tone/illumination';
import { hasTraces } from './traces';
import { writingMask, type WritingMask } from './writingMask';

/** Paper comes out a little under white, so that nothing of what lies just below it clips. */
const UNDER_WHITE = 0.88;
const PAPER = 255 * UNDER_WHITE ** (1 / 2.2);
/** What is left of faint ink is drawn apart by this. */
const STRETCH = 3.5;
/** Averaging four pixels halves their noise, but not quite: neighbours share samples of the source. */
const NOISE_LEFT = 0.7;
/** A scanner that makes its paper white clips the noise away, but leaves what compressing it did beside lines. */
const LEAST_NOISE = 0.8;

/**
 * A second look at a page on which no writing was found: writing so faint that even light whitens most of it away is
 * looked for on a page that is kept under white and stretched.
 *
 * @returns the writing at half the page's size, the page with its paper at white, and whether there are traces at all
 * @param noise standard deviation of bare paper, in grey levels
 * @param rules 1 where printed lines lie, at half the page's size: beside them nothing is looked for
 */
export function faintWriting(
	flat: Picture,
	light: Illumination,
	noise: number,
	rules: Uint8Array | null
): { writing: WritingMask; grey: Plane; hasTraces: boolean } {
	const under = evenGrey(flat, light, UNDER_WHITE);
	const half = halve(under);
	const { width, height, data } = half;
	const stretched = curve((v) => 255 - STRETCH * (PAPER - v), data);
	const found = writingMask(
		{ width, height, data: stretched },
		STRETCH * NOISE_LEFT * Math.max(noise, LEAST_NOISE)
	);
	if (rules) found.data.forEach((v, i) => (found.data[i] = v && !rules[i] ? 1 : 0));
	return {
		writing: rules ? { ...found, coverage: countInk(found.data) / found.data.length } : found,
		grey: { ...under, data: curve((v) => v + 255 - PAPER, under.data) },
		hasTraces: hasTraces(half)
	};
}

function curve(value: (v: number) => number, data: Uint8Array): Uint8Array {
	const table = Uint8Array.from({ length: 256 }, (_, v) => Math.max(0, Math.min(255, value(v))));
	return data.map((v) => table[v]!);
}
