import { components } from '../raster/components';
import { dilate, erode } from '../raster/greyMorphology';
import { resizeFloat } from '../raster/floatPlane';
import { median } from '../raster/percentile';
import type { FloatPlane, Picture } from '../raster/picture';
import { spanned } from './filledFromAround';
import type { Illumination } from './illumination';

/** Blocks along the longer side in which fills are looked for: about 2 mm of an A4 page. */
const BLOCKS = 144;
/** A fill lets through less than this of the light around it in the channel it darkens most. */
const DARKENED = 0.85;
/** Or one channel differs from another by this share: light changes them alike. */
const TINTED = 0.07;
/** The edge of a fill is climbed, from a fifth to four fifths, within this part of the page's longer side: 1.2 mm of A4. */
const SHARP = 1.2 / 297;
/** Or within so many pixels: no camera sees a page sharper. */
const SHARP_PIXELS = 4;
/** So many of the places along its rim that tell anything have to be sharp. */
const SHARP_SHARE = 0.6;
/** Fewer blocks than these were left over where light was smoothed. */
const LEAST_BLOCKS = 9;
/** What covers more of a page than this is the paper itself, as where bright surroundings show beside it, unless it has several colours. */
const MOST_OF_PAGE = 0.5;
const SEVERAL_COLOURS = 0.1;
/** Blocks inside of a fill up to which light was smoothed with that around it. */
const SMOOTHED = 4;
/** Places along a rim that are looked at. */
const PLACES = 120;
/** Rows or columns of pixels that are looked at in one place of a rim. */
const LINES = 8;
/** Across a rim grey has to change by this share of its brighter side to tell anything. */
const LEAST_STEP = 0.08;

/** Areas filled with grey or colour. */
export interface Fills {
	/** The light on the page with that under them taken from around, so that they keep their grey and colour. */
	readonly light: Illumination;
	/** Whether one of them has a colour. */
	readonly isColoured: boolean;
	/** In blocks of the page, 1 where one of them ends. */
	readonly rims: FloatPlane;
}

/**
 * Finds filled areas on a page: the bar of a chart, a coloured map, a tinted box. `estimateIllumination` takes what is wider
 * than some millimetres for shadow. Two things tell them apart: a shadow comes in over the page's rim, a fill lies inside;
 * and a fill ends as sharply as a pen's stroke, a shadow in half light.
 *
 * @param page flattened and upright
 * @param light as estimated on it
 * @param beyond of a page in so many blocks, 1 where the picture holds nothing of it; null where it holds everything
 * @returns null where there are none
 */
export function findFills(
	page: Picture,
	light: Illumination,
	beyond: (blocks: Pick<Picture, 'width' | 'height'>) => Uint8Array | null = () => null
): Fills | null {
	const scale = Math.min(1, BLOCKS / Math.max(light.green.width, light.green.height));
	const [width, height] = [Math.round(light.green.width * scale), Math.round(light.green.height * scale)];
	const small = [light.red, light.green, light.blue].map((plane) =>
		scale < 1 ? resizeFloat(plane, width, height) : plane
	);
	const hidden = beyond({ width, height });
	// Light was smoothed with the white that stands there.
	const outside = hidden && dilate({ width, height, data: Float32Array.from(hidden) }, SMOOTHED).data;
	const inside = small.map((plane) => relativeToRim(plane, outside));
	const mask = new Uint8Array(width * height);
	const tinted = new Uint8Array(width * height);
	let found = false;
	for (let i = 0; i < mask.length; i++) {
		const [r, g, b] = [inside[0]![i]!, inside[1]![i]!, inside[2]![i]!];
		const least = Math.min(r, g, b);
		tinted[i] = Number(Math.max(r, g, b) - least >= TINTED);
		if (least >= DARKENED && !tinted[i]) continue;
		mask[i] = 1;
		found = true;
	}
	if (!found) return null;
	const { list, labels } = components(mask, width, height);
	const isFill = list.map(({ area }, n) => {
		if (area < LEAST_BLOCKS) return false;
		if (area > MOST_OF_PAGE * mask.length && !hasSeveralColours(small, labels, n + 1)) return false;
		return endsSharply(page, { width, height, labels, n: n + 1 });
	});
	if (!isFill.includes(true)) return null;
	const fills = { width, height, data: Float32Array.from(labels, (n) => Number(n > 0 && isFill[n - 1])) };
	// Blocks at a rim are partly filled, and were smoothed with those beside them.
	const covered = dilate(fills, 2);
	const known = covered.data.map((v) => 1 - v);
	// The three planes are of one size.
	const share = resizeFloat(covered, light.green.width, light.green.height).data;
	const bridged = (plane: FloatPlane, c: number): FloatPlane => {
		const under = resizeFloat(spanned(small[c]!, known), plane.width, plane.height).data;
		const data = plane.data.map((v, i) => v + (under[i]! - v) * share[i]!);
		return { ...plane, data };
	};
	return {
		light: { red: bridged(light.red, 0), green: bridged(light.green, 1), blue: bridged(light.blue, 2) },
		isColoured: tinted.some((v, i) => v > 0 && fills.data[i]! > 0),
		rims: { width, height, data: difference(covered.data, erode(fills, SMOOTHED).data) }
	};
}

const difference = (a: Float32Array, b: Float32Array) => a.map((v, i) => v - b[i]!);

/**
 * Each value as a share of the lowest pass over which one gets from there to the rim of the plane: 1 where it is a way
 * downhill or level all along, less in a basin.
 *
 * @param outside 1 where there is nothing of the page: its rim is there
 */
function relativeToRim(
	{ width, height, data: values }: FloatPlane,
	outside: Float32Array | null
): Float32Array {
	const data = outside ? values.map((v, i) => (outside[i] ? 0 : v)) : values;
	const level = new Float32Array(data.length);
	const reached = new Uint8Array(data.length);
	const queue: number[][] = Array.from({ length: 256 }, () => []);
	const reach = (i: number, from: number) => {
		reached[i] = 1;
		level[i] = Math.max(from, data[i]!);
		queue[Math.min(255, Math.max(0, Math.floor(level[i]!)))]!.push(i);
	};
	for (let x = 0; x < width; x++)
		for (const y of [0, height - 1]) if (!reached[y * width + x]) reach(y * width + x, 0);
	for (let y = 0; y < height; y++)
		for (const x of [0, width - 1]) if (!reached[y * width + x]) reach(y * width + x, 0);
	// Nothing is ever put below the bucket that is being emptied.
	for (const bucket of queue) {
		for (let k = 0; k < bucket.length; k++) {
			const i = bucket[k]!;
			const x = i % width;
			const from = level[i]!;
			if (x > 0 && !reached[i - 1]) reach(i - 1, from);
			if (x < width - 1 && !reached[i + 1]) reach(i + 1, from);
			if (i >= width && !reached[i - width]) reach(i - width, from);
			if (i + width < data.length && !reached[i + width]) reach(i + width, from);
		}
	}
	return level.map((v, i) => (outside?.[i] ? 1 : data[i]! / Math.max(1, v)));
}

interface Area {
	readonly width: number;
	readonly height: number;
	/** Which area each block belongs to. */
	readonly labels: Int32Array;
	readonly n: number;
}

/** Whether channels lie otherwise to each other in one place of an area than in another. */
function hasSeveralColours(
	[red, green, blue]: readonly FloatPlane[],
	labels: Int32Array,
	n: number
): boolean {
	const tints: [number[], number[]] = [[], []];
	labels.forEach((label, i) => {
		if (label !== n) return;
		const middle = Math.log(Math.max(1, green!.data[i]!));
		tints[0].push(Math.log(Math.max(1, red!.data[i]!)) - middle);
		tints[1].push(Math.log(Math.max(1, blue!.data[i]!)) - middle);
	});
	return tints.some((values) => {
		const centre = median(values);
		return median(values.map((v) => Math.abs(v - centre))) > SEVERAL_COLOURS;
	});
}

/** Whether grey changes at once along the rim of an area. */
function endsSharply(page: Picture, area: Area): boolean {
	const blocks = [page.width / area.width, page.height / area.height] as const;
	const rim = rimOf(area);
	const sharp = Math.max(SHARP_PIXELS, SHARP * Math.max(page.width, page.height));
	const step = Math.max(1, rim.length / PLACES);
	let [told, sharply] = [0, 0];
	for (let k = 0; k < rim.length; k += step) {
		const climb = climbAcross(page, rim[Math.floor(k)]!, blocks);
		if (climb === null) continue;
		told++;
		sharply += Number(climb <= sharp);
	}
	return told > 0 && sharply >= SHARP_SHARE * told;
}

/** A place between two blocks, in blocks, and which way leads out of the area. */
interface RimPlace {
	readonly x: number;
	readonly y: number;
	readonly dx: number;
	readonly dy: number;
}

function rimOf({ width, height, labels, n }: Area): RimPlace[] {
	const rim: RimPlace[] = [];
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			if (labels[y * width + x] !== n) continue;
			for (const [dx, dy] of SIDES) {
				const [u, v] = [x + dx, y + dy];
				if (u < 0 || v < 0 || u >= width || v >= height || labels[v * width + u] === n) continue;
				rim.push({ x: x + 0.5 + dx / 2, y: y + 0.5 + dy / 2, dx, dy });
			}
		}
	}
	return rim;
}

const SIDES = [
	[-1, 0],
	[1, 0],
	[0, -1],
	[0, 1]
] as const;

/**
 * How far it is, in pixels, from a fifth to four fifths of the way up across an edge: the median of some rows or columns.
 * Null where most of them show no edge.
 */
function climbAcross(
	{ width, height, channels, data }: Picture,
	place: RimPlace,
	[blockX, blockY]: readonly [number, number]
): number | null {
	const { dx, dy } = place;
	const [x, y] = [place.x * blockX, place.y * blockY];
	const reach = Math.round(2 * (dx === 0 ? blockY : blockX));
	const beside = dx === 0 ? blockX : blockY;
	const climbs: number[] = [];
	for (let line = 0; line < LINES; line++) {
		const aside = ((line + 0.5) / LINES - 0.5) * beside;
		const values: number[] = [];
		for (let k = -reach; k <= reach; k++) {
			const u = Math.round(x + k * dx + aside * Math.abs(dy));
			const v = Math.round(y + k * dy + aside * Math.abs(dx));
			if (u < 0 || v < 0 || u >= width || v >= height) continue;
			const p = (v * width + u) * channels;
			values.push(Math.min(data[p]!, data[p + 1]!, data[p + 2]!));
		}
		const climb = climbIn(values);
		if (climb !== null) climbs.push(climb);
	}
	return climbs.length * 2 < LINES ? null : median(climbs);
}

/** From a fifth to four fifths of the way from the first values, which lie in the area, to the last ones. */
function climbIn(values: readonly number[]): number | null {
	const end = Math.max(2, Math.floor(values.length / 5));
	if (values.length < 3 * end) return null;
	const low = median(values.slice(0, end));
	const high = median(values.slice(-end));
	if (high - low < LEAST_STEP * high) return null;
	// The last place at which it is still low, and from there the first at which it is high.
	const above = (share: number) => (v: number) => v > low + share * (high - low);
	const top = values.findIndex((_, i) => values.slice(i, i + 3).every(above(0.8)));
	const from = values.slice(0, Math.max(0, top)).findLastIndex((v) => !above(0.2)(v));
	return top < 0 ? values.length : top - from;
}
