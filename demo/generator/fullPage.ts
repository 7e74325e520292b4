import { blankPicture, type Picture } from '../../src/lib/core/raster/picture';
import { flatten } from '../../src/lib/core/sheet/flatten';
import type { Point, Quadrilateral } from '../../src/lib/core/sheet/geometry';
import { addNoise, blur, light } from './light';
import { Random } from './random';

/** Ways in which a page comes to fill a picture. */
export const TAKES = ['two-tone scan', 'fax', 'grey scan', 'colour scan', 'close crop', 'book page'] as const;
export type Take = (typeof TAKES)[number];

/** A page that fills the picture, and what of the picture is page. */
export interface FullPage {
	readonly picture: Picture;
	readonly corners: Quadrilateral;
	/** Of a scan, clockwise degrees by which the page leans on the glass. */
	readonly askew?: number;
}

/** Takes a flat page so that it fills the picture. */
export function fullPage(page: Picture, take: Take, seed: number): FullPage {
	const random = new Random(seed);
	const askew = random.chance(0.4) ? random.between(-2.5, 2.5) : random.between(-0.3, 0.3);
	switch (take) {
		case 'two-tone scan':
			return { ...full(twoTone(skewed(page, askew, [255, 255, 255]), random)), askew };
		case 'fax': {
			const small = resized(skewed(page, askew, [255, 255, 255]), 0.45);
			return { ...full(twoTone(small, random)), askew };
		}
		case 'grey scan':
			return { ...full(scanned(skewed(page, askew, [238, 238, 238]), random, true)), askew };
		case 'colour scan':
			return { ...full(scanned(skewed(page, askew, [244, 242, 238]), random, false)), askew };
		case 'close crop':
			return full(closeCrop(page, seed, random));
		case 'book page':
			return bookPage(page, seed, random);
	}
}

function full(picture: Picture): FullPage {
	const { width: w, height: h } = picture;
	return {
		picture,
		corners: [
			[0, 0],
			[w, 0],
			[w, h],
			[0, h]
		]
	};
}

/** The page lying askew on a bed of a colour; what turns out of the picture is lost. */
function skewed(page: Picture, degrees: number, bed: readonly [number, number, number]): Picture {
	const { width: w, height: h } = page;
	const a = (degrees * Math.PI) / 180;
	const out = blankPicture(w, h, bed);
	for (let y = 0, p = 0; y < h; y++) {
		for (let x = 0; x < w; x++, p += 3) {
			const u = Math.round((x - w / 2) * Math.cos(a) + (y - h / 2) * Math.sin(a) + w / 2);
			const v = Math.round(-(x - w / 2) * Math.sin(a) + (y - h / 2) * Math.cos(a) + h / 2);
			if (u < 0 || v < 0 || u >= w || v >= h) continue;
			const q = (v * w + u) * page.channels;
			for (let k = 0; k < 3; k++) out.data[p + k] = page.data[q + k]!;
		}
	}
	return out;
}

function resized(page: Picture, by: number): Picture {
	const { width: w, height: h } = page;
	const corners: Quadrilateral = [
		[0, 0],
		[w, 0],
		[w, h],
		[0, h]
	];
	return flatten(page, corners, Math.round(w * by), Math.round(h * by));
}

/** Black or white, by a level that wanders, with specks of dirt. */
function twoTone(page: Picture, random: Random): Picture {
	const view = { ...page, data: Uint8Array.from(page.data) };
	const level = random.between(110, 190);
	const dirt = random.chance(0.4) ? random.between(0, 4e-5) : 0;
	for (let p = 0; p < view.data.length; p += 3) {
		const luma = 0.3 * page.data[p]! + 0.59 * page.data[p + 1]! + 0.11 * page.data[p + 2]!;
		const v = luma < level || random.chance(dirt) ? 0 : 255;
		view.data[p] = view.data[p + 1] = view.data[p + 2] = v;
	}
	return view;
}

function scanned(page: Picture, random: Random, grey: boolean): Picture {
	const view = { ...page, data: Uint8Array.from(page.data) };
	const { width, height, data } = view;
	// The lid does not press flat: one side is a little darker.
	const dim = random.chance(0.4) ? random.between(0, 0.12) : 0;
	const white = random.chance(0.5) ? 1 : random.between(1, 1.12);
	for (let y = 0, p = 0; y < height; y++) {
		for (let x = 0; x < width; x++, p += 3) {
			const k = white * (1 - dim * (x / width) ** 3);
			const luma = 0.3 * data[p]! + 0.59 * data[p + 1]! + 0.11 * data[p + 2]!;
			for (let c = 0; c < 3; c++) data[p + c] = Math.min(255, (grey ? luma : data[p + c]!) * k);
		}
	}
	blur(view, random.between(0.2, 0.8));
	if (random.chance(0.6)) addNoise(data, random.between(0.3, 3), random);
	return view;
}

/** A photograph from so near that no edge of the page is in it. */
function closeCrop(page: Picture, seed: number, random: Random): Picture {
	const { width: w, height: h } = page;
	const share = random.between(0.3, 0.85);
	const [x0, y0] = [random.between(0, 1 - share) * w, random.between(0, 1 - share) * h];
	const bend = () => random.between(0, 0.05) * w * share;
	const corners: Quadrilateral = [
		[x0 + bend(), y0 + bend()],
		[x0 + share * w - bend(), y0 + bend()],
		[x0 + share * w - bend(), y0 + share * h - bend()],
		[x0 + bend(), y0 + share * h - bend()]
	];
	const view = flatten(page, corners, 900, Math.round((900 * h) / w)) as Picture & { data: Uint8Array };
	photographed(view, seed, random);
	return view;
}

/** A page of an open book: bent into the fold at one side, where a strip of the other page may show. */
function bookPage(page: Picture, seed: number, random: Random): FullPage {
	const strip = random.chance(0.6) ? random.between(0.03, 0.22) : 0;
	const { width: w, height: h } = page;
	const outWidth = Math.round(w * (1 + strip));
	const view = blankPicture(outWidth, h);
	const isRight = random.chance(0.5);
	const depth = random.between(0.2, 0.7);
	const wide = random.between(0.02, 0.06) * w;
	for (let y = 0, p = 0; y < h; y++) {
		for (let x = 0; x < outWidth; x++, p += 3) {
			// Counted from the outer side to the fold, and past it.
			const u = isRight ? outWidth - 1 - x : x;
			const away = Math.abs(u - w);
			const from = u < w ? (isRight ? w - 1 - u : u) : (u - w) % w;
			const q = (y * w + Math.min(w - 1, from)) * page.channels;
			const k = 1 - depth * Math.exp(-away / wide);
			for (let c = 0; c < 3; c++) view.data[p + c] = page.data[q + c]! * k;
		}
	}
	photographed(view, seed, random);
	const [x0, x1] = isRight ? [outWidth - w, outWidth] : [0, w];
	const corners: Point[] = [
		[x0, 0],
		[x1, 0],
		[x1, h],
		[x0, h]
	];
	return { picture: view, corners: corners as unknown as Quadrilateral };
}

function photographed(view: Picture & { data: Uint8Array }, seed: number, random: Random): void {
	const size = [view.width, view.height] as const;
	const falloff = random.between(0.1, 0.5);
	light(view, { seed, size, desk: 'wood', falloff, warmth: random.between(0, 1) }, random);
	blur(view, random.between(0.3, 1.6));
	addNoise(view.data, random.between(1, 5), random);
}
