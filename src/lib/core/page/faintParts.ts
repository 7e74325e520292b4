import { faintMarks } from '../legibility/faintMarks';
import { marksOn } from '../legibility/writingMask';
import { around } from '../raster/around';
import { halve } from '../raster/halve';
import type { Plane } from '../raster/picture';
import { blackAndWhite } from '../tone/blackAndWhite';

/** How far around a mark its grey belongs to it, in pixels of the page at half its size. */
const SOFT = 2;

/**
 * Black and white holds a page to its darkest ink, and loses faint pencil beside a pen. Writing that is lost as a whole, and
 * is as sharp as the rest, is held to its own standard.
 *
 * @param done the page in black and white: 0 for ink and 255 for paper
 * @param grey the same page, evenly lit
 * @param noise standard deviation of bare paper, in grey levels
 * @returns `done` itself where nothing is lost
 */
export function withFaintParts(
	done: Plane,
	grey: Plane,
	noise: number,
	dotsPerInch: number,
	inkWeight = 0
): Plane {
	const small = halve(grey);
	const { width, height } = small;
	const kept = around(inkAtHalf(done, width, height), width, height, 1);
	const lost = faintMarks(marksOn(small, noise / 2).mask, kept, small, grey);
	if (!lost) return done;
	const soft = around(lost, width, height, SOFT);
	const faint = blackAndWhite(onlyAt(grey, soft, width, height), dotsPerInch, inkWeight);
	const data = new Uint8Array(done.data);
	for (let i = 0; i < data.length; i++) if (faint.data[i] === 0) data[i] = 0;
	return { ...done, data };
}

/** 1 where a page in black and white has ink in any of four pixels. */
function inkAtHalf({ width, height, data }: Plane, w: number, h: number): Uint8Array {
	const out = new Uint8Array(w * h);
	for (let y = 0; y < height; y++) {
		const row = Math.min(h - 1, y >> 1) * w;
		for (let x = 0, i = y * width; x < width; x++, i++) {
			if (data[i] === 0) out[row + Math.min(w - 1, x >> 1)] = 1;
		}
	}
	return out;
}

/** A page that is bare but at a mask of half its size. */
function onlyAt({ width, height, data }: Plane, mask: Uint8Array, w: number, h: number): Plane {
	const out = new Uint8Array(data.length).fill(255);
	for (let y = 0; y < height; y++) {
		const row = Math.min(h - 1, y >> 1) * w;
		for (let x = 0, i = y * width; x < width; x++, i++) {
			if (mask[row + Math.min(w - 1, x >> 1)]) out[i] = data[i]!;
		}
	}
	return { width, height, data: out };
}
