import type { WritingMask } from '../legibility/writingMask';
import type { Quadrilateral } from './geometry';

/** Clockwise degrees that bring a page upright. */
export const TURNS = [0, 90, 180, 270] as const;
export type Turn = (typeof TURNS)[number];

export interface TurnGuess {
	readonly turn: Turn;
	/** 0 to 1; under 0.5 the writing does not tell. */
	readonly confidence: number;
}

export function addTurns(a: Turn, b: number): Turn {
	return ((((a + b) % 360) + 360) % 360) as Turn;
}

/**
 * The corners beginning with the one that becomes the page's top left after the turn. Flattening
 * from there turns the page at no cost.
 */
export function turnCorners(corners: Quadrilateral, turn: Turn): Quadrilateral {
	const first = (4 - turn / 90) % 4;
	return [0, 1, 2, 3].map((i) => corners[(first + i) % 4]!) as unknown as Quadrilateral;
}

/**
 * Guesses how a flattened page must be turned, from its writing alone.
 *
 * Lines of writing make the ink profile across them swing far more than the one along them, and letters
 * stand close along a line and far across it, which settles sideways or not. Which end is up: lines of left-to-right writing begin at one margin and
 * end raggedly, and people start at the top and leave the end of the page empty.
 */
export function guessTurn(mask: WritingMask): TurnGuess {
	if (mask.coverage < 0.0008) return { turn: 0, confidence: 0 };
	const turned = turnedRight(mask);
	const lying = axisOf(mask, turned);
	const sideways = lying < 0;
	const axis = Math.abs(lying);

	const read = sideways ? turned : mask;
	const lines = textLines(read);
	const upsideDown = sideSpread(lines.starts, read.width) - sideSpread(lines.ends, read.width);
	const emptiness = lines.centre - 0.5;
	// Positive: the raggeder side is on the left, or the writing sits low: the page is upside down.
	const evidence = 16 * upsideDown + 9 * emptiness;
	const flipped = evidence > 0;
	const turn = addTurns(sideways ? 90 : 0, flipped ? 180 : 0);
	const sureOfAxis = 1 - Math.exp(-1.6 * axis);
	const sureOfEnd = 1 / (1 + Math.exp(-Math.abs(evidence)));
	return { turn, confidence: Math.round(1000 * sureOfAxis * (2 * sureOfEnd - 1)) / 1000 };
}

/**
 * Which way the lines of writing run: positive along the rows of the mask, negative along its columns, the surer the
 * farther from 0.
 */
export function textAxis(mask: WritingMask): number {
	return axisOf(mask, turnedRight(mask));
}

/** The same with the mask turned a quarter: its rows are the columns, and are gone through as fast. */
function axisOf(mask: WritingMask, turned: WritingMask): number {
	const [rows, columns] = [mask, turned].map((m) => swing(rowsOf(m), m.width)) as [number, number];
	return (
		0.5 * Math.log((rows + 1e-9) / (columns + 1e-9)) + 1.5 * Math.log(wordLength(mask) / wordLength(turned))
	);
}

function rowsOf({ width, height, data }: WritingMask): Float64Array {
	const rows = new Float64Array(height);
	for (let y = 0, i = 0; y < height; y++) {
		let sum = 0;
		for (const end = i + width; i < end; i++) sum += data[i]!;
		rows[y] = sum;
	}
	return rows;
}

/** Letters this close, in pixels at about 80 dots an inch, belong to one word: 2 mm. */
const LETTER_GAP = 7;

/**
 * Mean length of runs of writing along rows with gaps up to LETTER_GAP closed, weighted by length: along lines whole
 * words join, across them only letters.
 */
function wordLength({ width, height, data }: WritingMask): number {
	let total = 1;
	let squares = 1;
	for (let y = 0; y < height; y++) {
		const base = y * width;
		let start = -1;
		let last = -1;
		for (let x = 0; x <= width; x++) {
			if (x < width && data[base + x]) {
				if (start < 0) start = x;
				last = x;
			} else if (start >= 0 && (x === width || x - last > LETTER_GAP)) {
				const length = last - start + 1;
				total += length;
				squares += length * length;
				start = -1;
			}
		}
	}
	return squares / total;
}

/** Mean square difference of a smoothed profile, relative to its mean square. */
function swing(profile: Float64Array, across: number): number {
	const smooth = profile.map((_, i) => ((profile[i - 1] ?? 0) + profile[i]! + (profile[i + 1] ?? 0)) / 3);
	let change = 0;
	let energy = 0;
	for (let i = 3; i < smooth.length; i++) {
		change += (smooth[i]! - smooth[i - 3]!) ** 2;
		energy += smooth[i]! ** 2;
	}
	return across > 0 && energy > 0 ? change / energy : 0;
}

/** The mask turned a quarter clockwise. */
function turnedRight({ width, height, data, ...rest }: WritingMask): WritingMask {
	const out = new Uint8Array(data.length);
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) out[x * height + (height - 1 - y)] = data[y * width + x]!;
	}
	return { ...rest, width: height, height: width, data: out };
}

/** Where each line of writing starts and ends, and how far down the writing sits on average. */
function textLines(mask: WritingMask) {
	const { width, height, data } = mask;
	const rows = rowsOf(mask);
	let ink = 0;
	let moment = 0;
	rows.forEach((row, y) => {
		ink += row;
		moment += row * y;
	});
	const level = (0.35 * ink) / height;
	const starts: number[] = [];
	const ends: number[] = [];
	for (let y = 0; y < height;) {
		if (rows[y]! <= level) {
			y++;
			continue;
		}
		const top = y;
		while (y < height && rows[y]! > level) y++;
		if (y - top < height / 250 || y - top > height / 12) continue;
		const inColumn = new Uint8Array(width);
		for (let k = top, i = top * width; k < y; k++) {
			for (let x = 0; x < width; x++, i++) inColumn[x]! |= data[i]!;
		}
		const columns: number[] = [];
		for (let x = 0; x < width; x++) if (inColumn[x]) columns.push(x);
		// A couple of stray columns at either end do not set the margin.
		if (columns.length < width / 12) continue;
		starts.push(columns[Math.floor(columns.length * 0.02)]!);
		ends.push(columns[Math.floor(columns.length * 0.98)]!);
	}
	return { starts, ends, centre: ink > 0 ? moment / ink / height : 0.5 };
}

/** Mean absolute deviation from the median, as a fraction of the width; 0 for fewer than 3 lines. */
function sideSpread(positions: readonly number[], width: number): number {
	if (positions.length < 3) return 0;
	const sorted = [...positions].sort((a, b) => a - b);
	const middle = sorted[sorted.length >> 1]!;
	return positions.reduce((s, p) => s + Math.abs(p - middle), 0) / positions.length / width;
}
