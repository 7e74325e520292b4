import { components, eachPixelOf, type Component } from '../raster/components';
import { enclosedPapers } from './enclosed';
import { frameCourse } from './frameCourse';
import type { Box } from './pieces';

/** A ring or box drawn around something, or a line drawn under it. */
export interface Frame {
	readonly kind: 'around' | 'under';
	/** Of what is framed: left, top, and one past right and bottom, in pixels. */
	readonly inside: readonly [number, number, number, number];
	/** Pixels of the frame itself. */
	readonly pixels: readonly number[];
}

/** Sizes of frames, in heights of a letter. */
const LEAST_HEIGHT = 1.2;
/** Of one that may have gaps, or is no wider than a letter. */
const LEAST_OPEN = 1.6;
const WIDE = 2.2;
/** What stands in one no wider than a letter is at least so high, as a part of it: the tail of a Q is lower. */
const OF_SMALL = 0.45;
const MOST_HEIGHT = 4.5;
const LEAST_WIDTH = 1.2;
const MOST_WIDTH = 26;
/** Of a group of ink with a frame in it: words behind it and before it may hang together with it. */
const MOST_GROUP = 60;
/** Of the paper in a frame. */
const LARGE = 0.9;
/** So far outside of that letters that stick out are looked for. */
const REACH = 0.6;
/** Of a line under something. */
const MOST_LENGTH = 14;
/** Ink in a frame and what is in it, as a part of all. */
const MOST_INK = 0.55;
/** So much of what a frame reaches around it encloses: a ring three quarters, letters less. */
const FILLED = 0.6;
/** Part of the rows and columns that begin and end with a frame, where it has gaps. */
const CLOSED = 0.8;
/** How far from its side a frame may bend inwards, as a part of its height or width. */
const BEND = 0.4;
/** Thickness of a frame's line, in widths of a stroke. */
const THICK = 3;
/** What courses cost for each of their places is about the same within this. */
const AS_GOOD = 0.02;
/** Ink inside, as a part of the frame's own. */
const LEAST_INSIDE = 0.12;

/**
 * Finds what is drawn around labels. A frame that touches the writing inside, or that letters stick out of, is peeled
 * off along its course; strokes that cross it stay whole.
 *
 * @param list and labels as `components` gives them
 * @param letter usual height of a letter in pixels
 * @param stroke usual width of a stroke in pixels
 */
export function findFrames(
	list: readonly Component[],
	labels: Int32Array,
	width: number,
	letter: number,
	stroke: number
): Frame[] {
	const frames: Frame[] = [];
	list.forEach((c, n) => {
		const frame = around(c, n) ?? under(c, n);
		if (frame) frames.push(frame);
	});
	return frames;

	function around(c: Component, n: number): Frame | null {
		const w = c.x1 - c.x0;
		const h = c.y1 - c.y0;
		if (h < LEAST_HEIGHT * letter || h > 2 * MOST_HEIGHT * letter) return null;
		if (w < LEAST_WIDTH * letter || w > MOST_GROUP * letter) return null;
		const mine = maskOf(labels, width, n + 1, c);
		const found: Peeled[] = [];
		for (const { bounds, filled } of enclosedPapers(mine, w, h, LARGE * letter)) {
			if (filled < FILLED) continue;
			// What hangs together with it outside is none of it.
			const reach = Math.ceil(REACH * letter);
			const part = {
				x0: c.x0 + Math.max(0, bounds[0] - reach),
				y0: c.y0 + Math.max(0, bounds[1] - reach),
				x1: c.x0 + Math.min(w, bounds[2] + reach),
				y1: c.y0 + Math.min(h, bounds[3] + reach)
			};
			const [left, top] = [part.x0 - c.x0, part.y0 - c.y0];
			const inPart: Box = [bounds[0] - left, bounds[1] - top, bounds[2] - left, bounds[3] - top];
			const frame = peeled(part, n, inPart);
			if (frame) found.push(frame);
		}
		// The widest that is about as straight and whole as any: a letter's bowl that hangs on to a frame makes none with it.
		const least = Math.min(...found.map((f) => f.costs));
		const best = found.find((f) => f.costs <= least + AS_GOOD) ?? peeled(c, n, null);
		return best?.frame ?? null;
	}

	/** The frame in a part of the page, where there is one; `paper` is what it encloses, if it has no gaps. */
	function peeled(part: Part, n: number, paper: Box | null): Peeled | null {
		const w = part.x1 - part.x0;
		const h = part.y1 - part.y0;
		const mine = maskOf(labels, width, n + 1, part);
		const thick = Math.max(3, THICK * stroke);
		const sides = sidesOf(mine, w, h).map(outermostStrokes);
		const [top, bottom, left, right] = sides as [Int32Array, Int32Array, Int32Array, Int32Array];
		const both = (one: Int32Array, other: Int32Array) => one.filter((run, i) => run && other[i]).length;
		if (!paper && both(top, bottom) + both(left, right) < CLOSED * (w + h)) return null;
		const thin = sides.flatMap((runs) => [...runs].filter((run) => run > 0 && run <= thick));
		const thickness = Math.max(2, thin.sort((a, b) => a - b)[thin.length >> 1] ?? stroke);
		const outer: Box = paper
			? [
					Math.max(0, paper[0] - thickness),
					Math.max(0, paper[1] - thickness),
					Math.min(w, paper[2] + thickness),
					Math.min(h, paper[3] + thickness)
				]
			: [0, 0, w, h];
		const [wide, high] = [outer[2] - outer[0], outer[3] - outer[1]];
		if (wide < LEAST_WIDTH * letter || wide > MOST_WIDTH * letter) return null;
		if (high < (paper && wide >= WIDE * letter ? LEAST_HEIGHT : LEAST_OPEN) * letter) return null;
		if ((paper ? paper[3] - paper[1] : high) > MOST_HEIGHT * letter) return null;
		if (inkIn(mine, w, outer) > MOST_INK * wide * high) return null;
		const course = frameCourse(mine, w, h, outer, thickness);
		const pixels = new Set(
			course.pixels.map((i) => (part.y0 + Math.floor(i / w)) * width + part.x0 + (i % w))
		);
		const inside = insideOf(part, outer, pixels);
		const least = Math.max(0.5 * letter, wide < WIDE * letter ? OF_SMALL * high : 0);
		if (inside.area < LEAST_INSIDE * pixels.size || inside.y1 - inside.y0 < least) return null;
		const frame = {
			kind: 'around',
			inside: [inside.x0, inside.y0, inside.x1, inside.y1],
			pixels: [...pixels]
		} as const;
		return { frame, costs: course.costs };
	}

	/** Ink of a part of the page whose middle a frame goes around. */
	function insideOf({ x0, y0, x1, y1 }: Part, outer: Box, frame: ReadonlySet<number>): Component {
		const w = x1 - x0;
		const ink = Uint8Array.from({ length: w * (y1 - y0) }, (_, i) => {
			const p = (y0 + Math.floor(i / w)) * width + x0 + (i % w);
			return Number(labels[p] !== 0 && !frame.has(p));
		});
		const groups = components(ink, w, y1 - y0).list.filter((g) => {
			const [x, y] = [(g.x0 + g.x1) / 2, (g.y0 + g.y1) / 2];
			return x > outer[0] && x < outer[2] && y > outer[1] && y < outer[3];
		});
		return groups.reduce(
			(all, g) => ({
				x0: Math.min(all.x0, x0 + g.x0),
				y0: Math.min(all.y0, y0 + g.y0),
				x1: Math.max(all.x1, x0 + g.x1),
				y1: Math.max(all.y1, y0 + g.y1),
				area: all.area + g.area
			}),
			{ x0: x1, y0: y1, x1: x0, y1: y0, area: 0 }
		);
	}

	function under(c: Component, n: number): Frame | null {
		const w = c.x1 - c.x0;
		const h = c.y1 - c.y0;
		if (w < 1.3 * letter || w > MOST_LENGTH * letter || h > Math.max(4, 2 * stroke + 0.06 * w)) return null;
		if (c.area < 0.5 * w * stroke) return null;
		const top = Math.max(0, Math.round(c.y0 - 2 * letter));
		let covered = 0;
		const box: [number, number, number, number] = [c.x1, c.y0, c.x0, c.y0];
		for (let x = c.x0; x < c.x1; x++) {
			let ink = false;
			for (let y = top; y < c.y0; y++) {
				if (!labels[y * width + x]) continue;
				if (c.y0 - y > 1.6 * letter) continue;
				ink = true;
				box[0] = Math.min(box[0], x);
				box[1] = Math.min(box[1], y);
				box[2] = Math.max(box[2], x + 1);
			}
			if (ink) covered++;
		}
		if (covered < 0.45 * w) return null;
		const pixels: number[] = [];
		eachPixelOf(c, n, labels, width, (i) => pixels.push(i));
		return { kind: 'under', inside: box, pixels };
	}
}

interface Peeled {
	readonly frame: Frame;
	/** What its course costs for each place. */
	readonly costs: number;
}

/** Left, top, and one past right and bottom, of a part of the page in pixels. */
type Part = Pick<Component, 'x0' | 'y0' | 'x1' | 'y1'>;

/** A group of ink by itself, in a part of the page: 1 for its pixels. */
function maskOf(labels: Int32Array, width: number, label: number, { x0, y0, x1, y1 }: Part): Uint8Array {
	const mask = new Uint8Array((x1 - x0) * (y1 - y0));
	for (let y = y0, i = 0; y < y1; y++) {
		for (let x = x0; x < x1; x++, i++) if (labels[y * width + x] === label) mask[i] = 1;
	}
	return mask;
}

function inkIn(mine: Uint8Array, w: number, [x0, y0, x1, y1]: Box): number {
	let sum = 0;
	for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) sum += mine[y * w + x]!;
	return sum;
}

/** One side of a group of ink: places along it, and the pixel at each depth. */
interface Side {
	readonly length: number;
	readonly across: number;
	readonly ink: (place: number, depth: number) => number;
}

function sidesOf(mine: Uint8Array, w: number, h: number): Side[] {
	return [
		{ length: w, across: h, ink: (i, d) => mine[d * w + i]! },
		{ length: w, across: h, ink: (i, d) => mine[(h - 1 - d) * w + i]! },
		{ length: h, across: w, ink: (i, d) => mine[i * w + d]! },
		{ length: h, across: w, ink: (i, d) => mine[i * w + w - 1 - d]! }
	];
}

/** For each place along a side the length of the outermost stroke, in pixels; 0 where there is none near the side. */
function outermostStrokes({ length, across, ink }: Side): Int32Array {
	return Int32Array.from({ length }, (_, i) => {
		let from = 0;
		while (from < across && !ink(i, from)) from++;
		let to = from;
		while (to < across && ink(i, to)) to++;
		return from > BEND * across ? 0 : to - from;
	});
}
