import type { Component } from '../raster/components';

/** Left, top, and one past right and bottom, in pixels. */
export type Box = readonly [number, number, number, number];

/** Sizes of what may be a mark that the detector passed over, in heights of a letter. */
const LEAST = 0.55;
const HIGHEST = 3;
const WIDEST = 9;
/** More marks than this on a page are not writing but what is left of its squares. */
const MOST = 40;
/** Gaps within a mark, in heights of a letter. */
const GAP = 0.9;

/**
 * Short marks that no line covers, such as a lone "3)" in the margin: groups of ink that stand together.
 *
 * @param lines boxes of the lines found already
 */
export function strayMarks(list: readonly Component[], lines: readonly Box[], letter: number): Box[] {
	const free = list.filter((c) => {
		const w = c.x1 - c.x0;
		const h = c.y1 - c.y0;
		if (h > HIGHEST * letter || w > WIDEST * letter || c.area < 6) return false;
		const x = (c.x0 + c.x1) / 2;
		const y = (c.y0 + c.y1) / 2;
		return !lines.some((b) => x >= b[0] && x < b[2] && y >= b[1] && y < b[3]);
	});
	const groups: [number, number, number, number][] = [];
	for (const c of [...free].sort((a, b) => a.x0 - b.x0)) {
		const near = groups.find(
			(g) =>
				c.x0 - g[2] < GAP * letter &&
				Math.min(c.y1, g[3]) - Math.max(c.y0, g[1]) > -0.15 * letter &&
				Math.max(c.y1, g[3]) - Math.min(c.y0, g[1]) < HIGHEST * letter
		);
		if (near) {
			near[0] = Math.min(near[0], c.x0);
			near[1] = Math.min(near[1], c.y0);
			near[2] = Math.max(near[2], c.x1);
			near[3] = Math.max(near[3], c.y1);
		} else groups.push([c.x0, c.y0, c.x1, c.y1]);
	}
	const marks = groups.filter((g) => {
		const h = g[3] - g[1];
		return h >= LEAST * letter && h <= HIGHEST * letter && g[2] - g[0] <= WIDEST * letter;
	});
	return marks.length > MOST ? [] : marks;
}
