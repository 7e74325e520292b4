import type { Component } from '../raster/components';
import { framePixels } from './frameCourse';

/** A ring or box drawn around something, or a line drawn under it. */
export interface Frame {
	readonly kind: 'around' | 'under';
	/** Of what is framed: left, top, and one past right and bottom, in pixels. */
	readonly inside: readonly [number, number, number, number];
	/** Pixels of the frame itself. */
	readonly pixels: readonly number[];
}

/** Sizes of frames, in heights of a letter. */
const LEAST_HEIGHT = 1.6;
const MOST_HEIGHT = 4.5;
const LEAST_WIDTH = 1.2;
const MOST_WIDTH = 20;
/** Of a line under something. */
const MOST_LENGTH = 14;
/** Part of the rows and columns of a frame that must begin and end with it. */
const CLOSED = 0.8;
/** How far from its side a frame may bend inwards, as a part of its height or width. */
const BEND = 0.4;
/** Thickness of a frame's line, in widths of a stroke. */
const THICK = 3;
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
		if (h < LEAST_HEIGHT * letter || h > MOST_HEIGHT * letter) return null;
		if (w < LEAST_WIDTH * letter || w > MOST_WIDTH * letter || c.area > 0.55 * w * h) return null;
		const thick = Math.max(3, THICK * stroke);
		const mine = (x: number, y: number) => labels[y * width + x] === n + 1;
		const sides: readonly Side[] = [
			{ length: w, across: h, at: (i, d) => [c.x0 + i, c.y0 + d] },
			{ length: w, across: h, at: (i, d) => [c.x0 + i, c.y1 - 1 - d] },
			{ length: h, across: w, at: (i, d) => [c.x0 + d, c.y0 + i] },
			{ length: h, across: w, at: (i, d) => [c.x1 - 1 - d, c.y0 + i] }
		];
		const ink = ({ across, at }: Side) => {
			return (i: number, d: number) => d < across && mine(...at(i, d));
		};
		const outermost = sides.map((side) => outermostStrokes(side, ink(side)));
		const [top, bottom, left, right] = outermost as [Int32Array, Int32Array, Int32Array, Int32Array];
		const both = (one: Int32Array, other: Int32Array) => one.filter((run, i) => run && other[i]).length;
		if (both(top, bottom) + both(left, right) < CLOSED * (w + h)) return null;
		const thin = outermost.flatMap((runs) => [...runs].filter((run) => run > 0 && run <= thick));
		const thickness = Math.max(2, thin.sort((a, b) => a - b)[thin.length >> 1] ?? stroke);
		const peeled = new Set(framePixels(c, thickness, mine).map(([x, y]) => y * width + x));
		let inside = 0;
		const box: [number, number, number, number] = [c.x1, c.y1, c.x0, c.y0];
		for (let y = c.y0; y < c.y1; y++) {
			for (let x = c.x0; x < c.x1; x++) {
				const p = y * width + x;
				if (labels[p] === 0 || peeled.has(p)) continue;
				inside++;
				box[0] = Math.min(box[0], x);
				box[1] = Math.min(box[1], y);
				box[2] = Math.max(box[2], x + 1);
				box[3] = Math.max(box[3], y + 1);
			}
		}
		if (inside < LEAST_INSIDE * peeled.size || box[3] - box[1] < 0.5 * letter) return null;
		return { kind: 'around', inside: box, pixels: [...peeled] };
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
		for (let y = c.y0; y < c.y1; y++) {
			for (let x = c.x0; x < c.x1; x++) if (labels[y * width + x] === n + 1) pixels.push(y * width + x);
		}
		return { kind: 'under', inside: box, pixels };
	}
}

/** One side of a group of ink: places along it, and where in the page each depth lies. */
interface Side {
	readonly length: number;
	readonly across: number;
	readonly at: (place: number, depth: number) => [x: number, y: number];
}

/** For each place along a side the length of the outermost stroke, in pixels; 0 where there is none near the side. */
function outermostStrokes(
	{ length, across }: Side,
	ink: (place: number, depth: number) => boolean
): Int32Array {
	return Int32Array.from({ length }, (_, i) => {
		let from = 0;
		while (from < across && !ink(i, from)) from++;
		let to = from;
		while (ink(i, to)) to++;
		return from > BEND * across ? 0 : to - from;
	});
}
