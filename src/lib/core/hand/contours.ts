import type { Component } from '../raster/components';

/** Steps to the eight neighbours, clockwise from the right, rows growing downwards. */
const DX = [1, 1, 0, -1, -1, -1, 0, 1] as const;
const DY = [0, 1, 1, 1, 0, -1, -1, -1] as const;

/**
 * The outer contour of one connected group of ink, pixel by pixel (Moore's neighbour tracing): x and y in turn.
 *
 * @param labels for every pixel the number of its group plus one, as `components` gives them
 * @param index of the group
 */
export function outerContour(
	group: Component,
	index: number,
	labels: Int32Array,
	width: number,
	height: number
): Int32Array {
	const mine = (x: number, y: number) =>
		x >= 0 && y >= 0 && x < width && y < height && labels[y * width + x] === index + 1;
	let x0 = group.x0;
	while (!mine(x0, group.y0)) x0++;
	const most = 4 * ((group.x1 - group.x0) * (group.y1 - group.y0) + 4);
	const points: number[] = [];
	let x = x0;
	let y = group.y0;
	// The first pixel of the top row was come to from the left.
	let towards = 0;
	let first = -1;
	for (let steps = 0; steps < most; steps++) {
		let way = -1;
		for (let k = 0; k < 8; k++) {
			const d = (towards + 6 + k) % 8;
			if (mine(x + DX[d]!, y + DY[d]!)) {
				way = d;
				break;
			}
		}
		if (way < 0) return Int32Array.of(x, y);
		if (x === x0 && y === group.y0) {
			if (first < 0) first = way;
			else if (way === first) break;
		}
		points.push(x, y);
		x += DX[way]!;
		y += DY[way]!;
		towards = way;
	}
	return Int32Array.from(points);
}
