import type { Frame } from './frames';
import type { Box, Piece } from './pieces';
import type { ReadLine } from './readLine';

/** A piece of the page that is read by itself; `cleaned` is it without frames. */
export interface Crop {
	readonly box: Box;
	readonly cleaned: boolean;
}

/** A place where something short may stand that tells what is on the page: at a line's start, in the header, in a frame. */
export interface Place {
	/** Of all that stands together there. */
	readonly box: Box;
	readonly kind: ReadLine['kind'];
	/** What is looked at, each by itself; all begin with the same letter. */
	readonly crops: readonly Crop[];
	/** Free paper behind it, in pixels. */
	readonly after: number;
}

/** A line of writing; `from` is where what is crossed out at its beginning begins, in pixels from the left. */
export interface LineStart {
	readonly box: Box;
	readonly from?: number;
}

/** Lengths in heights of a letter. */
const START = 15;
const NEAR = 1.3;
const LEAST_HEIGHT = 0.5;
/** Parts of a label stand this near each other. */
const BESIDE = 2.2;
/** Words of a name stand this near each other. */
const JOINED = 3.5;
/** Pieces longer than this are lines of writing. */
const SHORT = 9;
/** Parts of the page's height in which everything is looked at: page numbers and names stand there. */
const HEADER = 0.13;
const FOOT = 0.91;
/** More places than this are not writing but what is left of squares or a drawing. */
const MOST = 160;

/**
 * Where on a page to look for labels and page numbers: wherever a line begins, as the detector of lines sees it and as
 * the ink itself lies, in frames, and everywhere in the header and the foot.
 *
 * @param lines what a detector found
 * @param letter usual height of a letter in pixels
 */
export function findPlaces(
	pieces: readonly Piece[],
	lines: readonly LineStart[],
	frames: readonly Frame[],
	height: number,
	letter: number
): Place[] {
	const places: { box: Box; kind: Place['kind']; crops: Crop[]; after: number }[] = [];
	for (const frame of frames) {
		if (frame.pixels.length === 0) continue;
		const crops = framedCrops(frame, letter);
		const box = since(struckBefore(frame.inside, lines, letter), crops[0].box);
		places.push({ box, kind: 'framed', crops: [...crops], after: 0 });
	}
	for (const { box, from } of lines) {
		const crops = [{ box: start(box, letter), cleaned: true }];
		places.push({ box: since(from, box), kind: 'line', crops, after: Infinity });
	}
	for (const { box, leads, after, from } of pieces) {
		const middle = (box[1] + box[3]) / 2;
		const outside = middle < HEADER * height || middle > FOOT * height;
		if (!outside && (!leads || box[3] - box[1] < LEAST_HEIGHT * letter)) continue;
		const padding = Math.max(0.1 * letter, 0.1 * (box[3] - box[1]));
		const all = padded(box, padding);
		const crop = { box: outside ? all : start(all, letter), cleaned: true };
		const same = places.find(
			(p) =>
				p.kind === 'line' &&
				Math.abs(p.box[0] - (from ?? box[0])) < NEAR * letter &&
				middle > p.box[1] &&
				middle < p.box[3]
		);
		if (same && leads) {
			// The detector may have seen no more than the "2." of "2. c)".
			if (after < BESIDE * letter && same.box[2] < box[2] + after) {
				const row = rowFrom(pieces, box, letter);
				same.crops[0] = { box: start(padded(row, padding), letter), cleaned: true };
			}
			same.crops.push(crop);
			same.after = after;
		} else {
			const kind = box[2] - box[0] > SHORT * letter ? 'line' : 'mark';
			const crops = [crop];
			// "1" and "a)" may stand apart and be one label.
			if (!outside && after < BESIDE * letter) {
				const row = rowFrom(pieces, box, letter);
				crops.unshift({ box: start(padded(row, padding), letter), cleaned: true });
			}
			places.push({ box: since(from, box), kind, crops, after });
		}
	}
	for (const box of outerRows(pieces, height, letter)) {
		const crops = [{ box: padded(box, 0.12 * (box[3] - box[1])), cleaned: true }];
		places.push({ box, kind: 'mark', crops, after: Infinity });
	}
	return places.length > MOST ? places.filter((p) => p.kind !== 'mark') : places;
}

/** What is looked at of a framed label. What is drawn around it may be part of a letter: it is looked at as it is as well. */
export function framedCrops(
	{ inside, kind }: Pick<Frame, 'inside' | 'kind'>,
	letter: number
): readonly [peeled: Crop, whole: Crop] {
	return [
		{ box: padded(inside, 0.12 * letter + 2), cleaned: true },
		{ box: padded(inside, kind === 'around' ? 0.5 * letter : 0.15 * letter), cleaned: false }
	];
}

/** Where what is crossed out before a frame begins; undefined where nothing is. */
function struckBefore(
	[x0, y0, , y1]: Frame['inside'],
	lines: readonly LineStart[],
	letter: number
): number | undefined {
	const middle = (y0 + y1) / 2;
	return lines.find(
		({ box, from }) =>
			from !== undefined &&
			from < x0 &&
			Math.abs(box[0] - x0) < NEAR * letter &&
			middle > box[1] &&
			middle < box[3]
	)?.from;
}

/** A piece and what follows it closely in its row. */
function rowFrom(pieces: readonly Piece[], from: Box, letter: number): Box {
	const middle = (from[1] + from[3]) / 2;
	let row: Box = from;
	const behind = pieces
		.map((p) => p.box)
		.filter((b) => b[0] > from[0] && Math.abs((b[1] + b[3]) / 2 - middle) < 0.7 * letter)
		.sort((a, b) => a[0] - b[0]);
	for (const b of behind) {
		if (b[0] - row[2] > BESIDE * letter || b[0] - from[0] > START * letter) break;
		row = [row[0], Math.min(row[1], b[1]), Math.max(row[2], b[2]), Math.max(row[3], b[3])];
	}
	return row;
}

/** Pieces of the header and the foot that stand side by side, joined: a given and a family name, "p." and its number. */
function outerRows(pieces: readonly Piece[], height: number, letter: number): Box[] {
	const rows: { box: [number, number, number, number]; count: number }[] = [];
	const outer = pieces.filter(({ box: [, y0, , y1] }) => {
		const y = (y0 + y1) / 2 / height;
		return y < HEADER || y > FOOT;
	});
	for (const { box } of outer.sort((a, b) => a.box[0] - b.box[0])) {
		const row = rows.find(
			(r) => liesBeside(box, r.box) && box[0] - r.box[2] < JOINED * letter && box[0] > r.box[0]
		);
		if (!row) rows.push({ box: [...box], count: 1 });
		else {
			row.box = [
				row.box[0],
				Math.min(row.box[1], box[1]),
				Math.max(row.box[2], box[2]),
				Math.max(row.box[3], box[3])
			];
			row.count++;
		}
	}
	return rows.filter((r) => r.count > 1).map((r) => r.box);
}

/** Whether the middle of one is as high as the other: that of a letter misses the dash before it. */
function liesBeside(one: Box, other: Box): boolean {
	const isIn = (a: Box, b: Box) => a[1] + a[3] > 2 * b[1] && a[1] + a[3] < 2 * b[3];
	return isIn(one, other) || isIn(other, one);
}

/** A box that begins further to the left. */
function since(from: number | undefined, [x0, ...rest]: Box): Box {
	return [from ?? x0, ...rest];
}

/** The beginning of a piece. */
function start([x0, y0, x1, y1]: Box, letter: number): Box {
	return [
		x0 - 0.1 * letter,
		y0,
		Math.min(x1 + 0.1 * letter, x0 + START * Math.max(letter, 0.5 * (y1 - y0))),
		y1
	];
}

function padded([x0, y0, x1, y1]: Box, by: number): Box {
	return [x0 - by, y0 - by, x1 + by, y1 + by];
}
