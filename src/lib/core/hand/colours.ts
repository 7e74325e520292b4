import { percentile } from '../raster/percentile';
import type { Plane, Picture } from '../raster/picture';
import type { Illumination } from '../tone/illumination';

/** Colour of a page's ink and paper, whatever light it was photographed in. */
export interface InkAndPaper {
	/** Share of red and of blue in what the ink takes away of the light; a third each is grey. */
	readonly red: number;
	readonly blue: number;
	/** How much of the light it takes away at its darkest, in natural logarithms. */
	readonly dark: number;
	/** Brightness of the paper in red, green and blue, 0 to 1. */
	readonly paper: readonly [number, number, number];
}

/** Ink that takes away less than this is a soft edge. */
const LEAST = 0.25;
/** Darker light and darker ink than this are only noise. */
const LEAST_LIGHT = 8;
const LEAST_INK = 4;
/** Darknesses that are kept; more tell nothing new. */
const MOST = 20_000;
/** One row of so many tells as much as all. */
const EVERY = 2;
/** Light is told in so many steps of a grey level. */
const STEPS = 8;
/** Natural logarithms of what a pixel may hold, and of light. */
const INK = Float64Array.from({ length: 256 }, (_, value) => Math.log(Math.max(LEAST_INK, value)));
const LIGHT = Float64Array.from({ length: 256 * STEPS }, (_, step) =>
	Math.log(Math.max(LEAST_LIGHT, (step + 0.5) / STEPS))
);
const stepOf = (light: number) => Math.min(256 * STEPS - 1, Math.max(0, light * STEPS)) | 0;

/**
 * The colour of the ink, as what it takes away of the light on the paper around it, and of the paper.
 *
 * @param flat the flattened page
 * @param light on its bare paper
 * @param writing 1 where there is writing, at half the size of the page
 */
export function measureColours(flat: Picture, light: Illumination, writing: Plane): InkAndPaper {
	const { width: columns, height: rows } = light.red;
	const [red, green, blue] = [light.red.data, light.green.data, light.blue.data];
	let [reds, greens, blues] = [0, 0, 0];
	const darkness = new Float64Array(MOST);
	let kept = 0;
	for (let y = 0; y < writing.height; y += EVERY) {
		const py = Math.min(flat.height - 1, 2 * y);
		const row = Math.min(rows - 1, ((py * rows) / flat.height) | 0) * columns;
		for (let x = 0, i = y * writing.width; x < writing.width; x++, i++) {
			if (!writing.data[i]) continue;
			const px = Math.min(flat.width - 1, 2 * x);
			const p = (py * flat.width + px) * flat.channels;
			const at = row + Math.min(columns - 1, ((px * columns) / flat.width) | 0);
			const r = Math.max(0, LIGHT[stepOf(red[at]!)]! - INK[flat.data[p]!]!);
			const g = Math.max(0, LIGHT[stepOf(green[at]!)]! - INK[flat.data[p + 1]!]!);
			const b = Math.max(0, LIGHT[stepOf(blue[at]!)]! - INK[flat.data[p + 2]!]!);
			const all = (r + g + b) / 3;
			if (all < LEAST) continue;
			reds += r;
			greens += g;
			blues += b;
			if (kept < MOST) darkness[kept++] = all;
		}
	}
	const all = reds + greens + blues;
	const sorted = darkness.subarray(0, kept).sort();
	return {
		red: round(all > 0 ? reds / all : 1 / 3),
		blue: round(all > 0 ? blues / all : 1 / 3),
		dark: round(sorted[Math.floor(0.8 * kept)] ?? 0),
		paper: [light.red, light.green, light.blue].map(({ data }) => round(medianOf(data) / 255)) as [
			number,
			number,
			number
		]
	};
}

function medianOf(values: Float32Array): number {
	const histogram = new Uint32Array(256 * STEPS);
	for (let i = 0; i < values.length; i++) histogram[stepOf(values[i]!)]!++;
	return percentile(histogram, 0.5) / STEPS;
}

function round(value: number): number {
	return Math.round(1000 * value) / 1000;
}
