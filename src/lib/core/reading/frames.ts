import type { Component } from '../raster/components';

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
 * Finds what is drawn around labels. A frame that touches the writing inside is peeled off: of each row and column, its
 * outermost stroke is the frame's.
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
		const peeled = new Set<number>();
		const mine = (x: number, y: number) => labels[y * width + x] === n + 1;
		/** Takes the outermost run off a row or column; false when there is none near the side. */
		const peel = (length: number, at: (i: number) => [number, number]): boolean => {
			let i = 0;
			while (i < length && !mine(...at(i))) i++;
			if (i > BEND * length) return false;
			const run: number[] = [];
			for (; i < length && mine(...at(i)); i++) {
				const [x, y] = at(i);
				run.push(y * width + x);
			}
			if (run.length <= thick) for (const p of run) peeled.add(p);
			return true;
		};
		let closed = 0;
		for (let x = c.x0; x < c.x1; x++) {
			const top = peel(h, (i) => [x, c.y0 + i]);
			const bottom = peel(h, (i) => [x, c.y1 - 1 - i]);
			if (top && bottom) closed++;
		}
		for (let y = c.y0; y < c.y1; y++) {
			const left = peel(w, (i) => [c.x0 + i, y]);
			const right = peel(w, (i) => [c.x1 - 1 - i, y]);
			if (left && right) closed++;
		}
		if (closed < CLOSED * (w + h)) return null;
		let inside = 0;
		const box: [number, number, number, number] = [c.x1, c.y1, c.x0, c.y0];
		for (let y = c.y0; y < c.y1; y++) {
			const atEnd = Math.min(y - c.y0, c.y1 - 1 - y) < thick;
			for (let x = c.x0; x < c.x1; x++) {
				const p = y * width + x;
				if (labels[p] === 0 || peeled.has(p)) continue;
				// In a corner both runs are long.
				if (atEnd && Math.min(x - c.x0, c.x1 - 1 - x) < thick) {
					if (labels[p] === n + 1) peeled.add(p);
					continue;
				}
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
