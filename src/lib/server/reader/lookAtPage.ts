import { measureHand, type HandMeasures } from '../../core/hand/measureHand';
import type { Picture, Plane } from '../../core/raster/picture';
import type { Frame } from '../../core/reading/frames';
import type { Box } from '../../core/reading/pieces';
import { isWordBeforeNumber } from '../../core/reading/namingWord';
import { findPieces } from '../../core/reading/pieces';
import { findPlaces, type Place } from '../../core/reading/places';
import type { ReadLine } from '../../core/reading/readLine';
import { shortCrop } from '../../core/reading/shortCrop';
import { endsInFrame, strokeField, strokeThrough, withoutStruckOut } from '../../core/reading/struckOut';
import type { Point, Quadrilateral } from '../../core/sheet/geometry';
import { inColour, inkOnPage } from './inkOnPage';
import { linesOn } from './linesOn';
import { readShort } from './readShort';
import { recognise } from './recognise';

/** A page as far as it was looked at: where lines lie, and what is short and tells something. */
export interface LookedAt {
	/** The page without what is drawn around labels; the page itself where nothing is. */
	readonly clean: Plane;
	/** Boxes of the lines of writing, top down. */
	readonly lines: readonly Quadrilateral[];
	/** Usual height of a letter in pixels. */
	readonly letter: number;
	readonly places: readonly Place[];
	/** What the recogniser of short writing says of each place. */
	readonly read: readonly ReadLine[];
	/** Of them, those where the lines begin; their boxes are the lines'. */
	readonly starts: readonly ReadLine[];
	readonly hand: HandMeasures;
}

/**
 * Finds where lines, labels and page numbers stand on an upright page and reads the beginnings.
 *
 * @param page evenly lit, at about 200 dots an inch
 */
export async function lookAtPage(page: Plane, dotsPerInch: number): Promise<LookedAt> {
	const ink = inkOnPage(page, dotsPerInch);
	const { list, letter, frames, clean } = ink;
	const lines = await linesOn(ink);
	const bounds = lines.map(boundsOf);
	const pieces = findPieces(list, [page.width, page.height], letter, dotsPerInch);
	const field = strokeField({
		width: page.width,
		height: page.height,
		labels: withoutFrames(ink.labels, frames),
		grey: page.data
	});
	const strokeEnd = (box: Box) => {
		const end = strokeThrough(field, box, letter, ink.stroke);
		return end !== null && endsInFrame(box, end, frames) ? null : end;
	};
	const struck = withoutStruckOut(pieces, bounds, strokeEnd, letter);
	const places = findPlaces(struck.pieces, struck.lines, frames, page.height, letter);
	const read = await readPlaces(
		places.map((place) => ({ ...place, crops: placeCrops(page, { clean }, place.crops) }))
	);
	const before = places.findIndex((p) => p.kind !== 'framed');
	const starts = lines.map((box, i) => ({ ...read[before + i]!, box }));
	const hand = measureHand(
		{ ...ink, width: page.width, height: page.height, dotsPerInch },
		bounds.map(([x, y]) => [x, y])
	);
	return { clean, lines, letter, places, read, starts, hand };
}

/** A stroke through a word ends where a frame begins that is drawn around what was written in its place. */
function withoutFrames(labels: Int32Array, frames: readonly Frame[]): Int32Array {
	const around = frames.filter(({ kind }) => kind === 'around');
	if (around.length === 0) return labels;
	const left = labels.slice();
	for (const { pixels } of around) for (const p of pixels) left[p] = 0;
	return left;
}

/** What is read as surely as this without its frame is not read once more with it: a ring's side is no 1. */
const SURELY = 0.85;

/** What the recogniser of short writing says of places that have been cut out. */
export async function readPlaces(
	places: readonly (Omit<Place, 'crops'> & { readonly crops: readonly Plane[] })[]
): Promise<ReadLine[]> {
	const short = await readShort(places.flatMap((p) => p.crops));
	let at = 0;
	return places.map(({ box, kind, crops, after }): ReadLine => {
		const all = short.slice(at, (at += crops.length));
		const isSure = kind === 'framed' && all[0]!.confidence >= SURELY && /[a-z\d]/i.test(all[0]!.text);
		const here =
			isSure || isWordBeforeNumber(all.at(-1)!.text, all[0]!.text) ? all.slice(0, all.length - 1) : all;
		const { text, confidence } = here.at(-1)!;
		return { box: corners(box), kind, text, confidence, posteriors: here.map((r) => r.posterior), after };
	});
}

/** What the recogniser of short writing is shown. */
export function placeCrops(page: Plane, { clean }: Pick<LookedAt, 'clean'>, crops: Place['crops']): Plane[] {
	return crops.map(({ box, cleaned }) => shortCrop(cleaned ? clean : page, box));
}

/** Heights of a letter that the general reader is shown of a place. */
const SHOWN = 8;

/** What the general reader is shown of a place. */
export function shownOf({ places, read, letter }: LookedAt, index: number): Quadrilateral {
	const { box } = places[index]!.crops[read[index]!.posteriors.length - 1]!;
	return corners([box[0], box[1], Math.min(box[2], box[0] + SHOWN * letter), box[3]]);
}

/** The piece of the page around what is shown of a place, and where it lies in that. */
function shownAlone(looked: LookedAt, index: number): { picture: Picture; corners: Quadrilateral } {
	const shown = shownOf(looked, index);
	const { width, height, data } = looked.clean;
	const [x0, y0] = shown[0].map((v) => Math.max(0, Math.floor(v) - 2)) as [number, number];
	const x1 = Math.max(x0 + 1, Math.min(width, Math.ceil(shown[2][0]) + 2));
	const y1 = Math.max(y0 + 1, Math.min(height, Math.ceil(shown[2][1]) + 2));
	const piece = new Uint8Array((x1 - x0) * (y1 - y0));
	for (let y = y0; y < y1; y++) {
		piece.set(data.subarray(y * width + x0, y * width + x1), (y - y0) * (x1 - x0));
	}
	return {
		picture: inColour({ width: x1 - x0, height: y1 - y0, data: piece }),
		corners: shown.map(([x, y]): Point => [x - x0, y - y0]) as unknown as Quadrilateral
	};
}

/** A second opinion on a place: what the general reader sees there. */
export async function withSecondOpinion(looked: LookedAt, index: number): Promise<ReadLine> {
	const line = looked.read[index]!;
	const { picture, corners } = shownAlone(looked, index);
	const { posterior } = await recognise(picture, corners);
	return { ...line, posteriors: [...line.posteriors, posterior] };
}

function boundsOf(box: Quadrilateral): Box {
	const [a, , , d] = box;
	const xs = box.map((p) => p[0]);
	// A line may slope: at its beginning it lies where its left side is.
	return [Math.min(...xs), Math.min(a[1], d[1]), Math.max(...xs), Math.max(a[1], d[1])];
}

/** An upright box as corners, clockwise from the top left. */
function corners([x0, y0, x1, y1]: Box): Quadrilateral {
	return [
		[x0, y0],
		[x1, y0],
		[x1, y1],
		[x0, y1]
	];
}
