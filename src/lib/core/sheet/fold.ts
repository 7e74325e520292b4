import type { WritingMask } from '../legibility/writingMask';
import { paperNoise } from '../legibility/paperNoise';
import { writingMask } from '../legibility/writingMask';
import type { Picture } from '../raster/picture';
import { evenGrey } from '../tone/evenLight';
import { estimateIllumination } from '../tone/illumination';
import { flatten } from './flatten';
import { wholePicture, type Point, type Quadrilateral } from './geometry';
import { homography, project } from './homography';
import { proportions } from './proportions';
import { refineSides } from './refineSides';
import { textAxis, turnCorners, type Turn } from './turn';

/** Which half of a picture of two pages: 0 is the left or upper one as the picture lies. */
export type Half = 0 | 1;

/** An open notebook: two pages in one outline. */
export interface Spread {
	/** The pages lie one above the other in the picture; otherwise side by side. */
	readonly stacked: boolean;
	/** Each page's own corners, in pixels of the picture, clockwise from the top left one. */
	readonly halves: readonly [Quadrilateral, Quadrilateral];
	/** 0 to 1; from 0.5 on there is a fold. */
	readonly confidence: number;
}

/** Pixels across both pages: a fold's shadow is then some ten wide. */
const ACROSS = 360;
/** Outlines less long than this hold one page. */
const LEAST_RATIO = 1.18;
/** Bands along the fold; it has to be seen in nearly all of them. */
const BANDS = 14;
const SEEN_IN = 0.75;
/** In each band and column the paper is brighter than this share of the pixels: ink and ruling drop out. */
const PAPER_SHARE = 0.7;
/** How far from the middle a fold is looked for, and how far it may lean, as fractions of ACROSS. */
const MIDDLE = 0.09;
const LEAN = 0.02;
/** How differently both ends of a line may still move, in pixels of ACROSS_FINELY. */
const SWING = 12;
/** Its shadow is over at these distances from it, as fractions of ACROSS; a hard shadow may begin between them. */
const BESIDE = [0.028, 0.05];
/** Lines in squared paper are narrower than this many pixels on both sides. */
const RULING_RADIUS = 1;
/** How much darker than the paper beside it a line through the middle is where it is as likely a fold as not. */
const EVEN_DEPTH = 0.022;
const DEPTH_SCALE = 0.005;
/** A depth speaks for a fold by this in log odds at most: a crease may be as deep. */
const DEEPEST = 8;
/** Most outlines that are long enough hold one page, in log odds. */
const ONE_PAGE = 3;
/** What lines of writing that run towards the fold say for it, and along it against it, by `textAxis`. */
const AXIS_WEIGHT = 1.2;
/** A fold is so many times deeper than any line elsewhere, which is from the first of these shares of the width to the second. */
const SOLE = 1.5;
const ELSEWHERE = [0.08, 0.38] as const;
/** A page with less writing than this tells nothing of how its lines run. */
const LEAST_WRITTEN = 0.004;
/** In a picture that is taken whole, there must be such lines. */
const LEAST_AXIS = 1;
/** And at least so much of it is paper, as light as the light on it but for this share: leaves and rooms are not. */
const LEAST_PAPER = 0.5;
const AS_LIGHT = 0.08;
/** A strip without ink between two columns of a page is narrower than this, as a fraction of ACROSS. */
const GUTTER = 0.06;
/** And it is this many times wider than any other in the writing. */
const WIDER = 1.6;
/** A spread with nothing but a gutter. */
const GUTTER_CONFIDENCE = 0.6;

/**
 * Looks for the fold of an open notebook: a line straight through the middle of a long outline, darker than the paper
 * on both sides of it all the way, with lines of writing that run towards it and not along it. In a scan, where a fold
 * may have no shadow, a wide strip without ink is enough.
 *
 * @param corners of the whole outline, in pixels of the picture
 * @param isWhole the outline is the picture, because no sheet was found in it
 * @returns null where there is one page only
 */
export function findFold(picture: Picture, corners: Quadrilateral, isWhole = false): Spread | null {
	const ratio = proportions(corners, [picture.width, picture.height]);
	const stacked = ratio < 1;
	const long = stacked ? 1 / ratio : ratio;
	if (long < LEAST_RATIO) return null;
	const lying = alongFold(corners, stacked);
	const width = ACROSS;
	const height = Math.round(ACROSS / long);
	const flat = flatten(picture, lying, width, height);
	const bands = paperBands(flat, 0, width);
	const rough = deepestLine(bands, width);
	const deep = Math.min(DEEPEST, (rough.depth - EVEN_DEPTH) / DEPTH_SCALE);
	if (deep < 0) return isWhole && long < LONGEST_SPREAD ? findGutter(picture, corners, long, stacked) : null;
	const writing = writingLying(picture, lying, long);
	const axis = axisBeside(writing, (rough.top + rough.bottom) / 2 / width);
	const confidence = 1 / (1 + Math.exp(ONE_PAGE - deep - AXIS_WEIGHT * axis));
	if (confidence < 0.5 || (isWhole && (axis < LEAST_AXIS || writing.paper < LEAST_PAPER))) return null;
	// Where there are others like it, it is ruling.
	if (rough.depth < SOLE * deepestBeside(bands, width)) return null;
	const best = sharpened(picture, lying, long, rough);
	const toPicture = homography(wholePicture(1, 1), lying);
	const fold = [project(toPicture, [best.top, 0]), project(toPicture, [best.bottom, 1])] as const;
	return { stacked, halves: cutAlong(corners, stacked, fold), confidence };
}

/** Two pages beside each other are no longer than this. */
const LONGEST_SPREAD = 1.75;

/** The strip without ink between the two pages of a scan. */
function findGutter(picture: Picture, corners: Quadrilateral, long: number, stacked: boolean): Spread | null {
	const lying = alongFold(corners, stacked);
	const writing = writingLying(picture, lying, long);
	if (writing.paper < LEAST_PAPER) return null;
	const { width, height, data } = writing;
	const ink = new Uint32Array(width);
	for (let y = Math.round(0.06 * height); y < 0.94 * height; y++) {
		for (let x = 0; x < width; x++) ink[x]! += data[y * width + x]!;
	}
	// A page number or a speck may stand in it.
	const isEmpty = (x: number) => ink[x]! < 0.004 * height;
	const strips: { from: number; to: number }[] = [];
	for (let x = 0, from = 0; x <= width; x++) {
		if (x < width && isEmpty(x)) continue;
		if (x > from && from > 0 && x < width) strips.push({ from, to: x });
		from = x + 1;
	}
	const wide = ({ from, to }: { from: number; to: number }) => to - from;
	strips.sort((p, q) => wide(q) - wide(p));
	const [best, next] = strips;
	if (!best || wide(best) < GUTTER * width || (next && wide(best) < WIDER * wide(next))) return null;
	const middle = (best.from + best.to) / 2 / width;
	if (Math.abs(middle - 0.5) > MIDDLE / 2) return null;
	const parts = [part(writing, 0, best.from), part(writing, best.to, width)];
	if (parts.some((half) => half.coverage === 0 || textAxis(half) < LEAST_AXIS / 2)) return null;
	const toPicture = homography(wholePicture(1, 1), lying);
	const fold = [project(toPicture, [middle, 0]), project(toPicture, [middle, 1])] as const;
	return { stacked, halves: cutAlong(corners, stacked, fold), confidence: GUTTER_CONFIDENCE };
}

/** Pixels across both pages at which the line is put down for good, and how far it may still move there. */
const ACROSS_FINELY = 1600;
const STILL = 0.012;

/**
 * The bottom of the fold's shadow, looked for finely around where it was found: in fractions of the outline's width.
 */
function sharpened(
	picture: Picture,
	lying: Quadrilateral,
	long: number,
	rough: { readonly top: number; readonly bottom: number }
): { top: number; bottom: number } {
	const width = ACROSS_FINELY;
	const scale = width / ACROSS;
	const flat = flatten(picture, lying, width, Math.round(ACROSS / long));
	const reach = Math.round(STILL * width);
	const from = Math.floor(Math.min(rough.top, rough.bottom) * scale) - 2 * reach;
	const to = Math.ceil(Math.max(rough.top, rough.bottom) * scale) + 2 * reach;
	const bands = paperBands(flat, Math.max(0, from), Math.min(width, to));
	let best = { top: rough.top * scale, bottom: rough.bottom * scale, light: Infinity };
	for (let a = -reach; a <= reach; a++) {
		for (let b = Math.max(-reach, a - SWING); b <= Math.min(reach, a + SWING); b++) {
			const top = rough.top * scale + a;
			const bottom = rough.bottom * scale + b;
			let light = 0;
			for (let k = 0; k < BANDS; k++) {
				light += bands[k * width + Math.floor(top + ((bottom - top) * (k + 0.5)) / BANDS)]!;
			}
			if (light < best.light) best = { top, bottom, light };
		}
	}
	return { top: best.top / width, bottom: best.bottom / width };
}

/** The corners turned so that the fold runs down. */
function alongFold(corners: Quadrilateral, stacked: boolean): Quadrilateral {
	return turnCorners(corners, stacked ? 90 : 0);
}

/** Cuts an outline in two; the fold runs from its top or left side to the one opposite. */
function cutAlong(
	[a, b, c, d]: Quadrilateral,
	stacked: boolean,
	[from, to]: readonly [Point, Point]
): [Quadrilateral, Quadrilateral] {
	return stacked
		? [
				[a, b, to, from],
				[from, to, c, d]
			]
		: [
				[a, from, to, d],
				[from, b, c, to]
			];
}

/** The side of a half that is the fold, as an index into top, right, bottom, left. */
export function foldSide(half: Half, stacked: boolean): number {
	if (stacked) return half === 0 ? 2 : 0;
	return half === 0 ? 1 : 3;
}

/**
 * Moves the outer sides of both halves onto the edges they belong to: where the fold lies higher or lower than the
 * outer sides, the sides have a kink there.
 */
export function refineHalves(picture: Picture, spread: Spread, reach: number, step: number): Spread {
	const refined = spread.halves.map((corners, half) => {
		const fixed = [0, 1, 2, 3].map((i) => i === foldSide(half as Half, spread.stacked));
		return refineSides(picture, corners, reach, step, fixed);
	});
	return { ...spread, halves: refined as [Quadrilateral, Quadrilateral] };
}

/** Cuts an outline through its middle across its longer side, as it lies in perspective. */
export function splitInMiddle(
	corners: Quadrilateral,
	picture: { readonly width: number; readonly height: number }
): Spread {
	const stacked = proportions(corners, [picture.width, picture.height]) < 1;
	const toPicture = homography(wholePicture(1, 1), alongFold(corners, stacked));
	const fold = [project(toPicture, [0.5, 0]), project(toPicture, [0.5, 1])] as const;
	return { stacked, halves: cutAlong(corners, stacked, fold), confidence: 0 };
}

/** Which half is read first once the picture is turned upright: the left one, or the upper one. */
export function firstHalf(stacked: boolean, turn: Turn): Half {
	const upsideDown = stacked ? turn === 90 || turn === 180 : turn === 180 || turn === 270;
	return upsideDown ? 1 : 0;
}

/** How bright the paper is in each band of rows, from one column to another: `width x BANDS`, row-major. */
function paperBands({ width, height, channels, data }: Picture, first: number, end: number): Float32Array {
	const out = new Float32Array(BANDS * width);
	for (let k = 0; k < BANDS; k++) {
		const from = Math.round(((k + 0.3) * height) / (BANDS + 0.6));
		const to = Math.round(((k + 1.3) * height) / (BANDS + 0.6));
		const column = new Uint8Array(to - from);
		const band = out.subarray(k * width, (k + 1) * width);
		for (let x = first; x < end; x++) {
			for (let y = from; y < to; y++) column[y - from] = data[(y * width + x) * channels + 1]!;
			column.sort();
			band[x] = column[Math.floor(column.length * PAPER_SHARE)]!;
		}
		// A closing along the row: lines of squared paper are thinner than a fold's shadow.
		const widest = extremes(band, Math.max);
		band.set(extremes(widest, Math.min));
	}
	return out;
}

function extremes(row: Float32Array, pick: (...values: number[]) => number): Float32Array {
	return row.map((_, x) =>
		pick(...row.subarray(Math.max(0, x - RULING_RADIUS), Math.min(row.length, x + RULING_RADIUS + 1)))
	);
}

/** How dark lines are against both their sides in nearly all bands; `lean` is how far they move from top to bottom. */
function depths(bands: Float32Array, width: number): (top: number, lean: number) => number {
	const nearby = BESIDE.map((share) => Math.round(share * width));
	const inBand = new Float32Array(BANDS);
	return (top, lean) => {
		for (let k = 0; k < BANDS; k++) {
			const x = Math.round(top + (lean * (k + 0.5)) / BANDS) + k * width;
			const beside = Math.max(...nearby.map((near) => Math.min(bands[x - near]!, bands[x + near]!)));
			inBand[k] = 1 - bands[x]! / Math.max(1, beside);
		}
		inBand.sort();
		return inBand[Math.floor(BANDS * (1 - SEEN_IN))]!;
	};
}

/** The line near the middle that is darkest. */
function deepestLine(bands: Float32Array, width: number): { top: number; bottom: number; depth: number } {
	const depthAt = depths(bands, width);
	let best = { top: width / 2, bottom: width / 2, depth: -1 };
	const reach = Math.round(MIDDLE * width);
	const leaning = Math.round(LEAN * width);
	for (let offset = -reach; offset <= reach; offset++) {
		for (let lean = -leaning; lean <= leaning; lean += 2) {
			const top = width / 2 + offset - lean / 2;
			const depth = depthAt(top, lean);
			if (depth > best.depth) best = { top: top + 0.5, bottom: top + lean + 0.5, depth };
		}
	}
	return best;
}

/** How dark the darkest line elsewhere is. */
function deepestBeside(bands: Float32Array, width: number): number {
	const depthAt = depths(bands, width);
	let deepest = 0;
	for (let x = Math.round(ELSEWHERE[0] * width); x < (1 - ELSEWHERE[0]) * width; x++) {
		if (Math.abs(x / width - 0.5) < 0.5 - ELSEWHERE[1]) continue;
		deepest = Math.max(deepest, depthAt(x, 0));
	}
	return deepest;
}

/** Pixels across both pages at which lines of writing are told from columns of letters. */
const READABLE = 900;

/** The writing of a picture whose fold would run down, and which share of the picture is paper. */
function writingLying(
	picture: Picture,
	lying: Quadrilateral,
	long: number
): WritingMask & { readonly paper: number } {
	const flat = flatten(picture, lying, READABLE, Math.round(READABLE / long));
	const even = evenGrey(flat, estimateIllumination(flat));
	let light = 0;
	for (const value of even.data) if (value > 255 * (1 - AS_LIGHT)) light++;
	return { ...writingMask(even, paperNoise(flat)), paper: light / even.data.length };
}

/** How much the lines of writing on both sides run towards a line down the writing, and not along it. */
function axisBeside(writing: WritingMask, at: number): number {
	const parts = [part(writing, 0, (at - 0.03) * READABLE), part(writing, (at + 0.03) * READABLE, READABLE)];
	// A half with next to no writing says nothing: the other one speaks for both.
	const written = parts.filter((half) => half.coverage > LEAST_WRITTEN);
	return (2 * written.reduce((sum, half) => sum + textAxis(half), 0)) / Math.max(1, written.length);
}

/** The columns from one to another, the second left out. */
function part({ width, height, data }: WritingMask, start: number, end: number): WritingMask {
	const [from, to] = [Math.round(start), Math.round(end)];
	const out = new Uint8Array((to - from) * height);
	let count = 0;
	for (let y = 0; y < height; y++) {
		out.set(data.subarray(y * width + from, y * width + to), y * (to - from));
	}
	for (const v of out) count += v;
	return {
		width: to - from,
		height,
		data: out,
		coverage: count / out.length,
		ruling: 0,
		marks: out,
		faint: 0,
		bare: false,
		rules: null,
		ruled: false
	};
}
