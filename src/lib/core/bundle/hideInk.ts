import { components } from '../raster/components';
import type { Plane } from '../raster/picture';
import type { TextLine } from '../reading/pageReading';

/** Samples of a page, row by row: one channel or three. */
export interface Samples {
	readonly width: number;
	readonly height: number;
	readonly channels: 1 | 3;
	readonly data: Uint8Array;
}

/** Room around a place that is hidden with it, in heights of the place. */
const ROOM = 0.12;
/** How far around a place ink of the same word is looked for, in heights of the place. */
const REACH = 1.2;
/** Share of a stroke that has to lie in the place for all of it to be hidden. */
const MOSTLY = 0.35;
/** Ink is darker than the paper by this. */
const DARK = 40;
/** Soft edges of ink, as a fraction of the page's width. */
const EDGE = 0.0015;

/**
 * Takes what stands in some places off a page for good: each is painted over in the paper's colour, with strokes that
 * reach out of it (ascenders, a swung letter), and framed, so that one sees that something stood there.
 *
 * @param page changed in place
 * @param places as fractions of the page
 * @returns what was painted over, in pixels
 */
export function hideInk(page: Samples, places: readonly TextLine['box'][]): TextLine['box'][] {
	return places.map((place) => hide(page, place));
}

function hide(page: Samples, place: TextLine['box']): TextLine['box'] {
	const { width, height, channels, data } = page;
	const edge = Math.max(2, Math.round(EDGE * width));
	const room = Math.max(edge, Math.round(ROOM * (place[3] - place[1]) * height));
	const [x0, y0, x1, y1] = [
		Math.max(0, Math.floor(place[0] * width) - room),
		Math.max(0, Math.floor(place[1] * height) - room),
		Math.min(width, Math.ceil(place[2] * width) + room),
		Math.min(height, Math.ceil(place[3] * height) + room)
	];
	const reach = Math.round(REACH * (y1 - y0));
	const [left, top] = [Math.max(0, x0 - reach), Math.max(0, y0 - reach)];
	const [right, bottom] = [Math.min(width, x1 + reach), Math.min(height, y1 + reach)];
	const [w, h] = [right - left, bottom - top];
	if (w <= 0 || h <= 0) return [x0, y0, x1, y1];
	const paper = paperIn(page, left, top, right, bottom);
	const light = channels === 3 ? Math.round((paper[0]! + 2 * paper[1]! + paper[2]!) / 4) : paper[0]!;
	const grey: Plane = { width: w, height: h, data: new Uint8Array(w * h) };
	const ink = new Uint8Array(w * h);
	for (let y = 0; y < h; y++) {
		for (let x = 0; x < w; x++) {
			const p = ((top + y) * width + left + x) * channels;
			const value = channels === 3 ? (data[p]! + 2 * data[p + 1]! + data[p + 2]!) >> 2 : data[p]!;
			grey.data[y * w + x] = value;
			ink[y * w + x] = Number(value < light - DARK);
		}
	}
	const { list, labels } = components(ink, w, h);
	const inside = new Int32Array(list.length);
	for (let y = y0 - top; y < y1 - top; y++) {
		for (let x = x0 - left; x < x1 - left; x++) {
			const label = labels[y * w + x]!;
			if (label > 0) inside[label - 1]!++;
		}
	}
	// What runs on out of sight, such as ruling, and all that hangs on it, is not the name's alone.
	const goes = list.map(
		(c, i) => inside[i]! >= MOSTLY * c.area && c.x0 > 0 && c.y0 > 0 && c.x1 < w && c.y1 < h
	);
	for (let y = 0; y < h; y++) {
		for (let x = 0; x < w; x++) {
			const label = labels[y * w + x]!;
			if (label === 0 || !goes[label - 1]) continue;
			fill(page, left + x - edge, top + y - edge, left + x + edge + 1, top + y + edge + 1, paper);
		}
	}
	fill(page, x0, y0, x1, y1, paper);
	const line = paper.map((value) => (page.channels === 1 && isTwoTone(grey) ? 0 : Math.round(0.62 * value)));
	const thick = Math.max(1, Math.round(width / 1200));
	fill(page, x0, y0, x1, y0 + thick, line);
	fill(page, x0, y1 - thick, x1, y1, line);
	fill(page, x0, y0, x0 + thick, y1, line);
	fill(page, x1 - thick, y0, x1, y1, line);
	return [x0, y0, x1, y1];
}

/** Colour of the paper in a part of a page: the middle of the brighter half of its samples, channel by channel. */
function paperIn(
	{ width, channels, data }: Samples,
	left: number,
	top: number,
	right: number,
	bottom: number
): number[] {
	return Array.from({ length: channels }, (_, c) => {
		const counts = new Uint32Array(256);
		for (let y = top; y < bottom; y++) {
			for (let x = left; x < right; x++) counts[data[(y * width + x) * channels + c]!]!++;
		}
		let rest = 0.25 * (right - left) * (bottom - top);
		for (let value = 255; value > 0; value--) {
			rest -= counts[value]!;
			if (rest <= 0) return value;
		}
		return 0;
	});
}

function isTwoTone({ data }: Plane): boolean {
	return data.every((value) => value === 0 || value === 255);
}

function fill(
	{ width, height, channels, data }: Samples,
	x0: number,
	y0: number,
	x1: number,
	y1: number,
	colour: readonly number[]
): void {
	for (let y = Math.max(0, y0); y < Math.min(height, y1); y++) {
		for (let x = Math.max(0, x0); x < Math.min(width, x1); x++) {
			for (let c = 0; c < channels; c++) data[(y * width + x) * channels + c] = colour[c]!;
		}
	}
}
