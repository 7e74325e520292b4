import { luma } from '../raster/luma';
import { percentile } from '../raster/percentile';
import type { Picture } from '../raster/picture';

/** A part of a picture: from `left` and `top` to before `right` and `bottom`, in pixels. */
export interface Part {
	readonly left: number;
	readonly top: number;
	readonly right: number;
	readonly bottom: number;
}

/** Grey levels under which nothing is paper, ink on it aside. */
const BLACK = 48;
/** A row or column of a margin is black at this share of its pixels: writing and pictures leave paper between. */
const ALL = 0.985;
/** No margin is broader, as a share of the picture. */
const BROADEST = 0.3;
/** What is left is a page only where a fifth of it is at least this bright. */
const PAPER = 150;
/** Rows and columns beside a margin that are half black, half paper. */
const BLURRED = 1;

/**
 * The part of a scan that is not the black around its sheet: scanners and copiers draw it where the glass lay bare.
 * Nothing but rows and columns that are black from end to end is taken away, so no writing can be lost.
 *
 * @param picture small: some 500 pixels on its longer side
 * @returns null where there is no such margin, or where no paper is within
 */
export function withoutMargins(picture: Picture): Part | null {
	const { width, height, data: light } = luma(picture);
	let [left, top, right, bottom] = [0, 0, width, height];
	const isBlack = (from: number, step: number, count: number) => {
		let dark = 0;
		for (let k = 0, i = from; k < count; k++, i += step) dark += Number(light[i]! < BLACK);
		return dark >= ALL * count;
	};
	const isBlackRow = (y: number) => isBlack(y * width + left, 1, right - left);
	const isBlackColumn = (x: number) => isBlack(top * width + x, width, bottom - top);
	for (let before = ''; before !== `${left} ${top} ${right} ${bottom}`;) {
		before = `${left} ${top} ${right} ${bottom}`;
		while (top < BROADEST * height && isBlackRow(top)) top++;
		while (height - bottom < BROADEST * height && isBlackRow(bottom - 1)) bottom--;
		while (left < BROADEST * width && isBlackColumn(left)) left++;
		while (width - right < BROADEST * width && isBlackColumn(right - 1)) right--;
	}
	if (left === 0 && top === 0 && right === width && bottom === height) return null;
	const levels = new Uint32Array(256);
	for (let y = top; y < bottom; y++) {
		for (let x = left; x < right; x++) levels[light[y * width + x]!]!++;
	}
	if (percentile(levels, 0.8) < PAPER) return null;
	const inset = (by: number) => (by > 0 ? by + BLURRED : 0);
	return {
		left: inset(left),
		top: inset(top),
		right: width - inset(width - right),
		bottom: height - inset(height - bottom)
	};
}
