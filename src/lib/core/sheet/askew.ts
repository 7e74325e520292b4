import { below, countInk } from '../raster/below';
import type { Plane } from '../raster/picture';
import type { Point, Quadrilateral } from './geometry';

/** How far the lines on a page lean. */
export interface Askew {
	/** Clockwise degrees by which writing and ruling lean. */
	readonly degrees: number;
	/** All parts of the page lean so, each looked at for itself. */
	readonly sure: boolean;
}

/** Lines that lean more than this do not come out of a sheet feeder. */
const MOST_DEGREES = 6;
const COARSE = 0.25;
const FINE = 0.05;
/** Under this nobody sees it. */
const LEAST_DEGREES = 0.25;
/** Each part of a page has to lie straighter afterwards, by half at least, and lean about as the others do. */
const GAIN = 0.5;
const ALIKE = 0.7;
/** How many times its mean the change from row to row has to be where it is greatest. */
const PEAK = 1.25;
/** Ink in fewer pixels than this has no lines, and what is dark over more of the picture than this is no page of writing. */
const LEAST_INK = 100;
const MOST_COVERED = 0.25;
/** So many pixels of ink tell as much as all. */
const ENOUGH_INK = 60_000;
/** Darker than this on an evenly lit page is ink or ruling. */
const DARK = 225;
/** The rim of a scan holds edges and shadows of the sheet, as a share of the shorter side. */
const RIM = 0.03;
/** Ink in fewer pixels than this, at 80 dots an inch, is dirt on the scanner's glass. */
const DIRT = 4;

/** Where ink lies, counted from the middle of the picture: along lines and across them. */
interface Ink {
	readonly along: Float32Array;
	readonly across: Float32Array;
	/** No pixel lies farther from the middle, either way. */
	readonly reach: number;
}

/**
 * How far the lines on an evenly lit page of about 80 dots an inch lean, writing and ruling together: the angle at which
 * the ink, pushed together along it, changes most sharply from row to row (Postl 1986). It is sure where the page's left
 * and right half and its upper and lower half would all lie straighter for it.
 *
 * @param sideways lines run down the picture
 * @returns null where there is too little ink, or no angle stands out
 */
export function leaning(grey: Plane, sideways: boolean): Askew | null {
	const ink = inkOf(grey, sideways);
	if (!ink) return null;
	const degrees = sharpest(ink);
	if (degrees === null) return null;
	const halves = [...halvesBy(ink, ink.along), ...halvesBy(ink, ink.across)].map(sharpest);
	const most = Math.min(ALIKE, GAIN * Math.abs(degrees));
	return { degrees, sure: halves.every((half) => half !== null && Math.abs(half - degrees) <= most) };
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

function inkOf(grey: Plane, sideways: boolean): Ink | null {
	const { width, height } = grey;
	const dark = below(grey, DARK);
	const pixels = countInk(dark);
	if (pixels > MOST_COVERED * dark.length) return null;
	const every = Math.ceil(pixels / ENOUGH_INK);
	let met = 0;
	const rim = Math.ceil(RIM * Math.min(width, height));
	const along: number[] = [];
	const across: number[] = [];
	for (let y = rim; y < height - rim; y++) {
		for (let x = rim; x < width - rim; x++) {
			if (!dark[y * width + x] || ++met % every > 0) continue;
			const [u, v] = [x - width / 2, y - height / 2];
			// A turn by a quarter does not change how far lines lean.
			along.push(sideways ? v : u);
			across.push(sideways ? -u : v);
		}
	}
	const reach = Math.ceil(Math.max(width, height) / 2);
	return { along: Float32Array.from(along), across: Float32Array.from(across), reach };
}

function halvesBy({ along, across, reach }: Ink, by: Float32Array): Ink[] {
	const middle = Float32Array.from(by).sort()[by.length >> 1] ?? 0;
	return [true, false].map((upper) => {
		const isIn = (_: number, i: number) => by[i]! >= middle === upper;
		return { along: along.filter(isIn), across: across.filter(isIn), reach };
	});
}

/** The angle at which the rows of the ink differ most from each other; null where none stands out. */
function sharpest(ink: Ink): number | null {
	if (ink.along.length < LEAST_INK) return null;
	const coarse = anglesAround(0, MOST_DEGREES, COARSE).map((degrees) => ({
		degrees,
		change: changeAt(ink, degrees)
	}));
	const best = coarse.reduce((a, b) => (b.change > a.change ? b : a));
	const mean = coarse.reduce((sum, { change }) => sum + change, 0) / coarse.length;
	if (Math.abs(best.degrees) >= MOST_DEGREES || best.change < PEAK * mean) return null;
	const fine = anglesAround(best.degrees, COARSE, FINE);
	const changes = fine.map((degrees) => changeAt(ink, degrees));
	return Math.round(100 * fine[changes.indexOf(Math.max(...changes))]!) / 100;
}

function anglesAround(middle: number, reach: number, step: number): number[] {
	const steps = Math.round(reach / step);
	return Array.from({ length: 2 * steps + 1 }, (_, i) => middle + (i - steps) * step);
}

/** Sum of the squared changes from row to row when rows lean by so many degrees. */
function changeAt({ along, across, reach: most }: Ink, degrees: number): number {
	const slope = Math.tan((degrees * Math.PI) / 180);
	const reach = 2 * most + 4;
	const rows = new Float64Array(2 * reach);
	for (let i = 0; i < along.length; i++) rows[Math.round(across[i]! - slope * along[i]!) + reach]!++;
	// At 0 degrees rows are the picture's own and lines of pixels; smoothed, no angle is favoured for that.
	const smooth = (r: number) =>
		rows[r - 2]! + 4 * rows[r - 1]! + 6 * rows[r]! + 4 * rows[r + 1]! + rows[r + 2]!;
	let change = 0;
	for (let r = 3; r < rows.length - 2; r++) change += (smooth(r) - smooth(r - 1)) ** 2;
	return change;
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
