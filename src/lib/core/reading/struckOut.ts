import type { Box, Piece } from './pieces';

/** Ink of a page by its groups. */
export interface InkField {
	readonly width: number;
	readonly height: number;
	/** 0 for paper. */
	readonly labels: Int32Array;
}

/** Lengths in heights of a letter: of the shortest stroke that crosses a word out, and how far in it may begin. */
const SHORTEST = 3.2;
const BEGINS = 0.8;
const LONGEST = 12;
/** A stroke has no gaps longer than this. */
const GAP = 0.12;
/** It runs through the middle of the word … */
const MIDDLE = [0.2, 0.8] as const;
/** … nearly level … */
const STEEPEST = 0.2;
const SLOPES = 20;
/** … and along this part of it there are letters above or below. */
const THROUGH = 0.35;
/** Where more places than this seem crossed out, it is ruling. */
const MOST = 0.5;

/**
 * Where a stroke ends that crosses out the beginning of a box; null where none does. A stroke is straight, and runs on
 * from letter to letter where writing has gaps.
 *
 * @param letter usual height of a letter in pixels
 * @param stroke usual width of a stroke in pixels
 */
export function strokeThrough(
	{ width, height, labels }: InkField,
	[x0, y0, x1, y1]: Box,
	letter: number,
	stroke: number
): number | null {
	const unit = Math.max(letter, 0.5 * (y1 - y0));
	const [from, to] = [Math.max(0, Math.floor(x0 - 0.3 * unit)), Math.min(width, x1, x0 + LONGEST * unit)];
	if (to - from < SHORTEST * unit) return null;
	const most = Math.max(2, GAP * unit);
	const isInk = (x: number, y: number) => y >= 0 && y < height && labels[y * width + x] !== 0;
	const onStroke = (x: number, y: number) => isInk(x, y) || isInk(x, y - 1) || isInk(x, y + 1);
	let best: { begin: number; end: number; at: (x: number) => number } | null = null;
	for (let y = Math.round(y0 + MIDDLE[0] * (y1 - y0)); y <= y0 + MIDDLE[1] * (y1 - y0); y++) {
		for (let s = -SLOPES; s <= SLOPES; s++) {
			const slope = (STEEPEST * s) / SLOPES;
			const at = (x: number) => Math.round(y + slope * (x - x0));
			let begin = from;
			while (begin < x0 + BEGINS * unit && !onStroke(begin, at(begin))) begin++;
			let end = begin;
			for (let x = begin; x < to && x - end <= most; x++) if (onStroke(x, at(x))) end = x + 1;
			if (end - begin >= SHORTEST * unit && (!best || end - begin > best.end - best.begin))
				best = { begin, end, at };
		}
	}
	if (!best) return null;
	const clear = Math.ceil(1.5 * stroke);
	let beside = 0;
	for (let x = best.begin; x < best.end; x++) {
		const y = best.at(x);
		let found = false;
		for (let d = clear; d <= unit && !found; d++) found = isInk(x, y - d) || isInk(x, y + d);
		if (found) beside++;
	}
	return beside >= THROUGH * (best.end - best.begin) ? best.end : null;
}

/**
 * Pieces and lines of a page, from behind what is crossed out at their beginnings on: a label that was written anew
 * stands right behind the wrong one.
 */
export function withoutStruckOut(
	pieces: readonly Piece[],
	lines: readonly Box[],
	strokeEnd: (box: Box) => number | null,
	letter: number
): { readonly pieces: Piece[]; readonly lines: Box[] } {
	const ends = new Map<Box, number>();
	const leading = pieces.filter((p) => p.leads).map((p) => p.box);
	for (const box of [...leading, ...lines]) {
		const end = strokeEnd(box);
		if (end !== null) ends.set(box, end);
	}
	if (ends.size > MOST * (leading.length + lines.length)) return { pieces: [...pieces], lines: [...lines] };
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
	const nowLeading = new Set<Piece>();
	const kept = pieces.flatMap((piece): Piece[] => {
		const end = ends.get(piece.box);
		if (end === undefined) return [piece];
		const [, y0, x1, y1] = piece.box;
		if (x1 - end > 0.5 * letter) return [{ ...piece, box: [end, y0, x1, y1] }];
		const next = behind(piece.box, end);
		if (next) nowLeading.add(next);
		return [];
	});
	return {
		pieces: kept.map((piece) => (nowLeading.has(piece) ? { ...piece, leads: true } : piece)),
		lines: lines.map((line) => {
			const end = ends.get(line);
			if (end === undefined) return line;
			const [, y0, x1, y1] = line;
			return [Math.min(x1 - 1, behind(line, end)?.box[0] ?? end), y0, x1, y1];
		})
	};
}
