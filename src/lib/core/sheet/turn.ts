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
	const lying = textAxis(mask);
	const sideways = lying < 0;
	const axis = Math.abs(lying);

	const read = sideways ? turnedRight(mask) : mask;
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
	const { width, height, data } = mask;
	const rows = new Float64Array(height);
	const columns = new Float64Array(width);
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			if (data[y * width + x]) {
				rows[y]!++;
				columns[x]!++;
			}
		}
	}
	const swingRows = swing(rows, width);
	const swingColumns = swing(columns, height);
	const alongRows = wordLength(data, width, height, false);
	const alongColumns = wordLength(data, width, height, true);
	return (
		0.5 * Math.log((swingRows + 1e-9) / (swingColumns + 1e-9)) + 1.5 * Math.log(alongRows / alongColumns)
	);
}

/** Letters this close, in pixels at about 80 dots an inch, belong to one word: 2 mm. */
const LETTER_GAP = 7;

/**
 * Mean length of runs of writing with gaps up to LETTER_GAP closed, weighted by length: along lines whole words
 * join, across them only letters.
 */
function wordLength(data: Uint8Array, width: number, height: number, down: boolean): number {
	const outer = down ? width : height;
	const inner = down ? height : width;
	const step = down ? width : 1;
	let total = 1;
	let squares = 1;
	for (let o = 0; o < outer; o++) {
		const base = down ? o : o * width;
		let start = -1;
		let last = -1;
		for (let i = 0; i <= inner; i++) {
			if (i < inner && data[base + i * step]) {
				if (start < 0) start = i;
				last = i;
			} else if (start >= 0 && (i === inner || i - last > LETTER_GAP)) {
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
function textLines({ width, height, data }: WritingMask) {
	const rows = new Float64Array(height);
	let ink = 0;
	let moment = 0;
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) rows[y]! += data[y * width + x]!;
		ink += rows[y]!;
		moment += rows[y]! * y;
	}
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
		const columns: number[] = [];
		for (let x = 0; x < width; x++) {
			let n = 0;
			for (let k = top; k < y; k++) n += data[k * width + x]!;
			if (n > 0) columns.push(x);
		}
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
