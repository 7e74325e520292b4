import { FAINT } from './besideRules';
import type { Frame } from './frames';
import type { Box, Piece } from './pieces';
import type { LineStart } from './places';

/** Ink of a page by its groups, and its grey. */
export interface InkField {
	readonly width: number;
	readonly height: number;
	/** 0 for paper. */
	readonly labels: Int32Array;
	readonly grey: Uint8Array;
}

/** What a pixel has: ink there, above or below; something faint there, above or below; and ink at the pixel itself. */
const NEAR_INK = 1;
const NEAR_FAINT = 2;
const INK = 4;
/** Empty rows above and below the page: what is near its edge has a place; farther out there is nothing. */
const OUTSIDE = 2;

/** A page as strokes are looked for on it: for every pixel the bits above, with `OUTSIDE` rows more on both sides. */
export interface StrokeField {
	readonly width: number;
	readonly bits: Uint8Array;
}

export function strokeField({ width, height, labels, grey }: InkField): StrokeField {
	const bits = new Uint8Array((height + 2 * OUTSIDE) * width);
	for (let i = 0, to = OUTSIDE * width; i < labels.length; i++, to++) {
		const isInk = labels[i] !== 0;
		const isFaint = grey[i]! < FAINT;
		if (!isInk && !isFaint) continue;
		const near = (isInk ? NEAR_INK : 0) | (isFaint ? NEAR_FAINT : 0);
		bits[to - width]! |= near;
		bits[to]! |= isInk ? near | INK : near;
		bits[to + width]! |= near;
	}
	return { width, bits };
}

/** Lengths in heights of a letter: of the shortest stroke that crosses a word out, and how far in it may begin. */
const SHORTEST = 3.2;
const BEGINS = 0.8;
const LONGEST = 16;
/** A shorter one sticks out on both sides of what it crosses out, by this: else it may be the bar of a letter. */
const SHORT = 2;
const STICKS_OUT = 0.1;
/** A stroke has no gaps longer than this … */
const GAP = 0.12;
/** … but where it is faint, or was taken for a rule: so long at most, and behind it this much of it is seen again. */
const FAINT_GAP = 1.4;
const AGAIN = 0.7;
/** Along this part of it it is seen. */
const SEEN = 0.88;
/** It runs through the middle of the word … */
const MIDDLE = [0.2, 0.8] as const;
/** … nearly level … */
const STEEPEST = 0.16;
const SLOPES = 24;
/** … and along this part of it there are letters above or below, and along this part below: it is no line under a word. */
const THROUGH = 0.35;
const BELOW = 0.2;
/** Where more places than this seem crossed out, it is ruling. */
const MOST = 0.5;

/** How far down courses of every slope are, in pixels of a page, from so far before where they begin up to so far behind. */
interface Courses {
	readonly before: number;
	readonly behind: number;
	/** Of the page. */
	readonly width: number;
	readonly falls: readonly Int32Array[];
}
let known: Courses = { before: 0, behind: 0, width: 0, falls: [] };

function coursesFor(before: number, behind: number, width: number): Courses {
	if (known.before >= before && known.behind >= behind && known.width === width) return known;
	const far = { before: Math.max(before, known.before), behind: Math.max(behind, known.behind) };
	const falls = Array.from({ length: 2 * SLOPES + 1 }, (_, s) => {
		const slope = STEEPEST * (s / SLOPES - 1);
		const fall = new Int32Array(far.before + far.behind + 1);
		for (let k = 0; k < fall.length; k++) fall[k] = width * Math.round(slope * (k - far.before));
		return fall;
	});
	return (known = { ...far, width, falls });
}

/**
 * Where a stroke ends that crosses out the beginning of a box; null where none does. A stroke is straight, and runs on
 * from letter to letter where writing has gaps.
 *
 * @param letter usual height of a letter in pixels
 * @param stroke usual width of a stroke in pixels
 */
export function strokeThrough(
	{ width, bits }: StrokeField,
	[x0, y0, , y1]: Box,
	letter: number,
	stroke: number
): number | null {
	const unit = Math.max(letter, 0.5 * (y1 - y0));
	const from = Math.max(0, Math.floor(x0 - 0.3 * unit));
	// A word of its own may be no more than the beginning of what is crossed out.
	const to = Math.min(width, Math.round(x0 + LONGEST * unit));
	const gap = Math.max(2, GAP * unit);
	const clear = Math.ceil(1.5 * stroke);
	const beginsBefore = Math.min(to, x0 + BEGINS * unit);
	const [gapEnd, again] = [FAINT_GAP * unit, AGAIN * unit];
	let best: number | null = null;
	let longest = SHORT * unit;
	const middle = Math.round(x0);
	const { before, falls } = coursesFor(middle - from, Math.max(0, to - middle), width);
	const shift = before - middle;
	const above = Math.floor(unit);
	for (let y = Math.round(y0 + MIDDLE[0] * (y1 - y0)); y <= y0 + MIDDLE[1] * (y1 - y0); y++) {
		const row = (y + OUTSIDE) * width;
		for (const fall of falls) {
			let begin = from;
			while (begin < beginsBefore && !(bits[row + fall[begin + shift]! + begin]! & NEAR_INK)) begin++;
			let [end, last, run] = [begin, begin, begin];
			for (let x = begin; x < to; x++) {
				const here = bits[row + fall[x + shift]! + x]!;
				if (here & NEAR_INK) {
					if (x - last > gap) run = x;
					last = x;
					if (run === begin || x - run >= again) end = x + 1;
				} else if (x - last > gap && (x - end > gapEnd || !(here & NEAR_FAINT))) break;
			}
			if (end - begin > longest && crossesOut(begin, end, row, fall)) {
				longest = end - begin;
				best = end;
			}
		}
	}
	return best;

	/** Whether a stroke is one along its course, with letters on both sides, and is none of a letter. */
	function crossesOut(begin: number, end: number, row: number, fall: Int32Array): boolean {
		const length = end - begin;
		const at = (x: number) => row + fall[x + shift]! + x;
		let seen = 0;
		for (let x = begin; x < end; x++) seen += bits[at(x)]! & NEAR_INK;
		if (seen < SEEN * length) return false;
		/** How far down the box's own ink is looked for. */
		const under = (i: number) => Math.min(above, Math.ceil(y1) - 1 - (Math.floor(i / width) - OUTSIDE));
		let [through, below] = [0, 0];
		for (let x = begin; x < end; x++) {
			const i = at(x);
			const isUnder = hasInk(i, width, under(i));
			through += Number(isUnder || hasInk(i, -width, above) || hasInk(i, width, above));
			below += Number(isUnder);
		}
		if (through < THROUGH * length || below < BELOW * length) return false;
		if (length >= SHORTEST * unit) return true;
		for (let k = 0; k < STICKS_OUT * unit; k++) {
			for (const x of [begin + k, end - 1 - k]) {
				if (hasInk(at(x), -width, above) || hasInk(at(x), width, under(at(x)))) return false;
			}
		}
		return true;
	}
	/** Whether there is ink from where a stroke is clear of itself up to so many rows on. */
	function hasInk(i: number, step: number, rows: number): boolean {
		for (let d = clear; d <= rows; d++) if (bits[i + d * step]! & INK) return true;
		return false;
	}
}

/** A stroke through a word may run into the frame behind it, and one that is a frame's own may end outside, by this part of its height. */
const REACH = 0.5;

/** Whether what seems to cross out the beginning of a box ends in a frame: what is drawn around a label is a stroke through none. */
export function endsInFrame([, y0, , y1]: Box, end: number, frames: readonly Frame[]): boolean {
	const middle = (y0 + y1) / 2;
	return frames.some(({ kind, inside: [left, top, right, bottom] }) => {
		const reach = REACH * (bottom - top);
		return kind === 'around' && middle > top && middle < bottom && end > left + reach && end < right + reach;
	});
}

/**
 * Pieces and lines of a page, from behind what is crossed out at their beginnings on: a label that was written anew
 * stands right behind the wrong one, and begins for the eye where that did (`from`).
 */
export function withoutStruckOut(
	pieces: readonly Piece[],
	lines: readonly Box[],
	strokeEnd: (box: Box) => number | null,
	letter: number
): { readonly pieces: Piece[]; readonly lines: LineStart[] } {
	const ends = new Map<Box, number>();
	const leading = pieces.filter((p) => p.leads).map((p) => p.box);
	for (const box of [...leading, ...lines]) {
		const end = strokeEnd(box);
		if (end !== null) ends.set(box, end);
	}
	// The detector's line and its first word begin alike.
	for (const line of lines) {
		const word = leading.find(
			(box) =>
				ends.has(box) &&
				Math.abs(box[0] - line[0]) < letter &&
				(box[1] + box[3]) / 2 > line[1] &&
				(box[1] + box[3]) / 2 < line[3]
		);
		if (word) ends.set(line, Math.max(ends.get(line) ?? 0, ends.get(word)!));
	}
	if (ends.size > MOST * (leading.length + lines.length)) {
		return { pieces: [...pieces], lines: lines.map((box) => ({ box })) };
	}
	/** The piece that stands right behind a place in the row of a box. */
	const behind = ([, y0, , y1]: Box, end: number) =>
		pieces
			.filter(
				({ box }) =>
					box[0] >= end - 0.5 * letter &&
					box[0] - end < 3 * letter &&
					Math.min(y1, box[3]) - Math.max(y0, box[1]) > 0.3 * Math.min(y1 - y0, box[3] - box[1])
			)
			.sort((a, b) => a.box[0] - b.box[0])[0];
	const nowLeading = new Map<Piece, number>();
	const kept = pieces.flatMap((piece): Piece[] => {
		const end = ends.get(piece.box);
		if (end === undefined) return [piece];
		const [from, y0, x1, y1] = piece.box;
		if (x1 - end > 0.5 * letter) return [{ ...piece, box: [end, y0, x1, y1], from }];
		const next = behind(piece.box, end);
		if (next) nowLeading.set(next, from);
		return [];
	});
	return {
		pieces: kept.map((piece) => {
			const from = nowLeading.get(piece);
			return from === undefined ? piece : { ...piece, leads: true, from };
		}),
		lines: lines.map((box): LineStart => {
			const end = ends.get(box);
			if (end === undefined) return { box };
			const [from, y0, x1, y1] = box;
			return { box: [Math.min(x1 - 1, behind(box, end)?.box[0] ?? end), y0, x1, y1], from };
		})
	};
}
