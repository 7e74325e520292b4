import { below } from '../raster/below';
import type { Plane } from '../raster/picture';
import type { Point, Quadrilateral } from './geometry';
import { leanOf, lineInk, type LineInk } from './lineInk';

/** How far the lines on a page lean. */
export interface Askew {
	/** Clockwise degrees by which writing and ruling lean. */
	readonly degrees: number;
	/** All parts of the page lean so, each looked at for itself. */
	readonly sure: boolean;
}

/** Lines that lean more than this do not come out of a sheet feeder. */
const ANGLES = { most: 6, coarse: 0.25, fine: 0.05 };
/** Under this nobody sees it. */
const LEAST_DEGREES = 0.25;
/** Each part of a page has to lie straighter afterwards, by half at least, and lean about as the others do. */
const GAIN = 0.5;
const ALIKE = 0.7;
/** Darker than this on an evenly lit page is ink or ruling. */
const DARK = 225;
/** Ink in fewer pixels than this, at 80 dots an inch, is dirt on the scanner's glass. */
const DIRT = 4;

/**
 * How far the lines on an evenly lit page of about 80 dots an inch lean, writing and ruling together: the angle at which
 * the ink, pushed together along it, changes most sharply from row to row (Postl 1986). It is sure where the page's left
 * and right half and its upper and lower half would all lie straighter for it.
 *
 * @param sideways lines run down the picture
 * @returns null where there is too little ink, or no angle stands out
 */
export function leaning(grey: Plane, sideways: boolean): Askew | null {
	const ink = lineInk(below(grey, DARK), grey, sideways);
	if (!ink) return null;
	const degrees = leanOf(ink, ANGLES)?.degrees;
	if (degrees === undefined) return null;
	const halves = [...halvesBy(ink, ink.along), ...halvesBy(ink, ink.across)].map((half) =>
		leanOf(half, ANGLES)
	);
	const most = Math.min(ALIKE, GAIN * Math.abs(degrees));
	return { degrees, sure: halves.every((half) => half !== null && Math.abs(half.degrees - degrees) <= most) };
}

/** True where a person would want the page straightened and nothing speaks against it. */
export function shouldStraighten({ degrees, sure }: Askew): boolean {
	return sure && Math.abs(degrees) >= LEAST_DEGREES;
}

/**
 * The rectangle that leans with the lines of a picture: flattened along it they run level. It is as large as the
 * picture, as the sheet in a feeder is, unless ink would lie outside; then it holds the whole picture.
 *
 * @param grey the evenly lit picture at about 80 dots an inch
 * @param width of the picture itself, in pixels
 */
export function straightened(grey: Plane, degrees: number, width: number, height: number): Quadrilateral {
	const a = (degrees * Math.PI) / 180;
	const sameSize = leaningRectangle(width, height, a, 1);
	const scale = grey.width / width;
	if (inkOutside(grey, (width * scale) / 2, (height * scale) / 2, a) < DIRT) return sameSize;
	const [s, c] = [Math.abs(Math.sin(a)), Math.cos(a)];
	// Of the same proportions, so that paper stays the paper that it is.
	return leaningRectangle(width, height, a, Math.max(c + (s * height) / width, c + (s * width) / height));
}

/** Clockwise degrees by which a rectangle made by `straightened` leans. */
export function degreesOf([a, b]: Quadrilateral): number {
	return (Math.atan2(b[1] - a[1], b[0] - a[0]) * 180) / Math.PI;
}

function halvesBy({ along, across, reach }: LineInk, by: Float32Array): LineInk[] {
	const middle = Float32Array.from(by).sort()[by.length >> 1] ?? 0;
	return [true, false].map((upper) => {
		const isIn = (_: number, i: number) => by[i]! >= middle === upper;
		return { along: along.filter(isIn), across: across.filter(isIn), reach };
	});
}

/** Pixels of ink outside of a rectangle around the middle that leans by `a` radians, given half of its sides. */
function inkOutside(grey: Plane, halfWidth: number, halfHeight: number, a: number): number {
	const { width, height, data } = grey;
	const [c, s] = [Math.cos(a), Math.sin(a)];
	let outside = 0;
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			if (data[y * width + x]! >= DARK) continue;
			const [u, v] = [x + 0.5 - width / 2, y + 0.5 - height / 2];
			if (Math.abs(u * c + v * s) > halfWidth || Math.abs(v * c - u * s) > halfHeight) outside++;
		}
	}
	return outside;
}

/** A rectangle around the middle of a picture, `size` times as large, that leans by `a` radians. */
function leaningRectangle(width: number, height: number, a: number, size: number): Quadrilateral {
	const [c, s] = [Math.cos(a), Math.sin(a)];
	const corner = (right: number, down: number): Point => {
		const [u, v] = [(right * size * width) / 2, (down * size * height) / 2];
		return [width / 2 + u * c - v * s, height / 2 + u * s + v * c];
	};
	return [corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)];
}
