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

/**
 * The colour of the ink, as what it takes away of the light on the paper around it, and of the paper.
 *
 * @param flat the flattened page
 * @param light on its bare paper
 * @param writing 1 where there is writing, at half the size of the page
 */
export function measureColours(flat: Picture, light: Illumination, writing: Plane): InkAndPaper {
	const sums = [0, 0, 0];
	const darkness: number[] = [];
	const planes = [light.red, light.green, light.blue];
	const { width: columns, height: rows } = light.red;
	for (let y = 0; y < writing.height; y++) {
		for (let x = 0; x < writing.width; x++) {
			if (!writing.data[y * writing.width + x]) continue;
			const px = Math.min(flat.width - 1, 2 * x);
			const py = Math.min(flat.height - 1, 2 * y);
			const p = (py * flat.width + px) * flat.channels;
			const at =
				Math.min(rows - 1, ((py * rows) / flat.height) | 0) * columns +
				Math.min(columns - 1, ((px * columns) / flat.width) | 0);
			const taken = planes.map((plane, c) =>
				Math.max(0, Math.log(Math.max(8, plane.data[at]!) / Math.max(4, flat.data[p + c]!)))
			);
			const all = (taken[0]! + taken[1]! + taken[2]!) / 3;
			if (all < LEAST) continue;
			taken.forEach((t, c) => (sums[c]! += t));
			if (darkness.length < 20_000) darkness.push(all);
		}
	}
	const all = sums[0]! + sums[1]! + sums[2]!;
	darkness.sort((a, b) => a - b);
	return {
		red: round(all > 0 ? sums[0]! / all : 1 / 3),
		blue: round(all > 0 ? sums[2]! / all : 1 / 3),
		dark: round(darkness[Math.floor(0.8 * darkness.length)] ?? 0),
		paper: [light.red, light.green, light.blue].map((plane) => {
			const values = [...plane.data].sort((a, b) => a - b);
			return round(values[values.length >> 1]! / 255);
		}) as [number, number, number]
	};
}

function round(value: number): number {
	return Math.round(1000 * value) / 1000;
}
