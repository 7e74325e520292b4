import type { Component } from '../raster/components';

/** Left, top, and one past right and bottom, in pixels. */
export type Box = readonly [number, number, number, number];

/** Ink that stands together: a word or a few, a lone label, a number in a corner. */
export interface Piece {
	readonly box: Box;
	/** Whether nothing stands close to its left: a line or a column begins with it. */
	readonly leads: boolean;
	/** Free paper to its right, up to the next piece of its row, in pixels; Infinity where none follows. */
	readonly after: number;
	/** Where what is crossed out before it begins, in pixels from the left. */
	readonly from?: number;
}

/** Sizes in heights of a letter. What is taller is a drawing, a rule, or lines that run into each other. */
const TALLEST = 3.4;
/** Smaller on both sides is a dot: it belongs to what it is near, and joins nothing. */
const DOT = 0.35;
/** What stands alone and is smaller than this on both sides is no letter: it is left where a rule crosses the margin's line. */
const SPECK = 0.6;
/** Letters this near each other stand together. */
const GAP = 0.75;
const DOT_GAP = 0.5;
/** Common height that letters side by side share, as a part of the smaller one's. */
const SHARED = 0.35;
/** Middles of letters side by side lie no further apart, as a part of the taller one's height. */
const APART = 0.6;
/** Free paper to the left of what begins a line. */
const LEAD = 1.4;
/** Ink at the very edge of the picture is the desk's. */
const BORDER = 2;
/**
 * What begins this near to the paper's edge and ends this near to it, in millimetres, is where the edge cuts ruling or
 * squares off: no letter has room there. Read as a number, it is a 1 or a 7.
 */
const AT_EDGE = 1.9;
const BY_EDGE = 3.4;

/**
 * The pieces of writing on a page, by their ink alone.
 *
 * @param list groups of ink as `components` gives them
 * @param letter usual height of a letter in pixels
 */
export function findPieces(
	list: readonly Component[],
	[width, height]: readonly [number, number],
	letter: number,
	dotsPerInch: number
): Piece[] {
	const small = (c: Component) => c.y1 - c.y0 < DOT * letter && c.x1 - c.x0 < DOT * letter;
	const used = list
		.filter(
			(c) =>
				c.y1 - c.y0 <= TALLEST * letter &&
				c.x1 - c.x0 <= 20 * letter &&
				c.area >= 4 &&
				c.x0 > BORDER &&
				c.y0 > BORDER &&
				c.x1 < width - BORDER &&
				c.y1 < height - BORDER
		)
		.sort((a, b) => a.x0 - b.x0);
	const parent = used.map((_, i) => i);
	const root = (i: number): number => {
		while (parent[i] !== i) i = parent[i] = parent[parent[i]!]!;
		return i;
	};
	for (let j = 0; j < used.length; j++) {
		const b = used[j]!;
		for (let i = 0; i < j; i++) {
			const a = used[i]!;
			if (b.x0 - a.x1 > GAP * letter || root(i) === root(j)) continue;
			if (standTogether(a, b)) parent[root(j)] = root(i);
		}
	}
	const boxes = new Map<number, [number, number, number, number]>();
	used.forEach((c, i) => {
		const box = boxes.get(root(i));
		if (!box) boxes.set(root(i), [c.x0, c.y0, c.x1, c.y1]);
		else {
			box[0] = Math.min(box[0], c.x0);
			box[1] = Math.min(box[1], c.y0);
			box[2] = Math.max(box[2], c.x1);
			box[3] = Math.max(box[3], c.y1);
		}
	});
	const millimetre = dotsPerInch / 25.4;
	const found = [...boxes.values()].filter(
		([x0, y0, x1, y1]) =>
			Math.max(x1 - x0, y1 - y0) >= SPECK * letter &&
			!cutOff(x0, x1, width, millimetre) &&
			!cutOff(y0, y1, height, millimetre)
	);
	return found.map((box) => {
		const inRow = found.filter(
			(o) => o !== box && common(o, box) > SHARED * Math.min(o[3] - o[1], box[3] - box[1])
		);
		const before = inRow.filter((o) => o[0] < box[0]).map((o) => box[0] - o[2]);
		const behind = inRow.filter((o) => o[0] > box[0]).map((o) => o[0] - box[2]);
		return {
			box,
			leads: Math.min(Infinity, ...before) > LEAD * letter,
			after: Math.min(Infinity, ...behind)
		};
	});

	function standTogether(a: Component, b: Component): boolean {
		const gap = b.x0 - a.x1;
		if (small(a) || small(b)) {
			const [dot, other] = small(a) ? [a, b] : [b, a];
			const y = (dot.y0 + dot.y1) / 2;
			const near = 0.3 * letter;
			return gap < DOT_GAP * letter && y > other.y0 - near && y < other.y1 + near;
		}
		const [ha, hb] = [a.y1 - a.y0, b.y1 - b.y0];
		const shared = Math.min(a.y1, b.y1) - Math.max(a.y0, b.y0);
		const apart = Math.abs(a.y0 + a.y1 - b.y0 - b.y1) / 2;
		return shared > SHARED * Math.min(ha, hb) && apart < APART * Math.max(ha, hb);
	}
}

/** Whether what reaches from one place to another lies in the strip along either edge. */
function cutOff(from: number, to: number, size: number, millimetre: number): boolean {
	return (
		(from < AT_EDGE * millimetre && to < BY_EDGE * millimetre) ||
		(size - to < AT_EDGE * millimetre && size - from < BY_EDGE * millimetre)
	);
}

const common = (a: Box, b: Box) => Math.min(a[3], b[3]) - Math.max(a[1], b[1]);
