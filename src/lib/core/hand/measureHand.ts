import type { Component } from '../raster/components';
import { outerContour } from './contours';

/** What of a page is its writer's: measures of the writing, whatever it says. */
export interface HandMeasures {
	/** How often two legs of the contour meet at which angles; see `hingeOf`. */
	readonly hinge: string;
	/** Pixels of contour that it was taken from: how much it can be relied on. */
	readonly contour: number;
	/** Usual width of a stroke, height of a letter and distance of lines, in millimetres; 0 where it cannot be told. */
	readonly stroke: number;
	readonly letter: number;
	readonly pitch: number;
	/** Usual width of what hangs together, in heights of a letter: how far letters are joined. */
	readonly joined: number;
	/** Where lines usually begin, as a part of the page's width. */
	readonly margin: number;
}

/** Directions that a leg is told in. */
const DIRECTIONS = 24;
const CELLS = (DIRECTIONS * (DIRECTIONS + 1)) / 2;
/** Length of a leg in millimetres, and its least in pixels. */
const LEG = 0.7;
const SHORTEST_LEG = 3;
/** Sizes of what counts as writing, in heights of a letter. */
const LOWEST = 0.45;
const TALLEST = 3;
const WIDEST = 14;
const SCALE = 510;

/** What of the ink of a page is known. */
export interface Ink {
	readonly list: readonly Component[];
	/** For every pixel the number of its group plus one. */
	readonly labels: Int32Array;
	readonly width: number;
	readonly height: number;
	/** Usual height of a letter, in pixels. */
	readonly letter: number;
	readonly dotsPerInch: number;
}

/**
 * Measures the hand that a page is written in.
 *
 * @param lines left and top of each line of writing in pixels, from the top down
 */
export function measureHand(ink: Ink, lines: readonly (readonly [number, number])[]): HandMeasures {
	const { list, letter, dotsPerInch } = ink;
	const writing = list
		.map((group, index) => ({ group, index }))
		.filter(({ group: { x0, y0, x1, y1 } }) => {
			const [w, h] = [x1 - x0, y1 - y0];
			return h >= LOWEST * letter && h <= TALLEST * letter && w <= WIDEST * letter;
		});
	const { hinge, contour, area } = hingeOf(ink, writing);
	const millimetres = (pixels: number) => round((pixels * 25.4) / dotsPerInch);
	const tops = lines.map((l) => l[1]).sort((a, b) => a - b);
	const gaps = tops.slice(1).flatMap((top, i) => (top - tops[i]! > 0.8 * letter ? [top - tops[i]!] : []));
	return {
		hinge,
		contour,
		// A stroke's two sides are about all of its contour.
		stroke: millimetres((2 * area) / Math.max(1, contour)),
		letter: millimetres(letter),
		pitch: millimetres(middle(gaps)),
		joined: round(middle(writing.map(({ group }) => (group.x1 - group.x0) / letter))),
		margin: round(middle(lines.map((l) => l[0])) / ink.width)
	};
}

/**
 * The contour hinge of a page's writing (Bulacu and Schomaker 2007): at each pixel of the contour, in which directions
 * the two legs leave it that reach a few pixels on and back. It tells writers apart by the slant and roundness of their
 * strokes, not by what they write. As text: of each pair of directions the root of its share, a byte each, in base 64.
 */
function hingeOf(
	{ labels, width, height, dotsPerInch }: Ink,
	writing: readonly { readonly group: Component; readonly index: number }[]
): { hinge: string; contour: number; area: number } {
	const leg = Math.max(SHORTEST_LEG, Math.round((LEG * dotsPerInch) / 25.4));
	const counts = new Float64Array(CELLS);
	let contour = 0;
	let area = 0;
	for (const { group, index } of writing) {
		const points = smoothed(outerContour(group, index, labels, width, height));
		const n = points.length >> 1;
		if (n < 4 * leg) continue;
		for (let i = 0; i < n; i++) {
			const on = (i + leg) % n;
			const back = (i + n - leg) % n;
			const a = direction(points[2 * on]! - points[2 * i]!, points[2 * on + 1]! - points[2 * i + 1]!);
			const b = direction(points[2 * back]! - points[2 * i]!, points[2 * back + 1]! - points[2 * i + 1]!);
			counts[cell(Math.min(a, b), Math.max(a, b))]!++;
		}
		contour += n;
		area += group.area;
	}
	let text = '';
	for (const count of counts) {
		text += String.fromCharCode(Math.min(255, Math.round(SCALE * Math.sqrt(count / Math.max(1, contour)))));
	}
	return { hinge: btoa(text), contour, area };
}

/** A closed contour with each point in the middle of itself and its two neighbours, times three: blur and noise leave steps in it. */
function smoothed(points: Int32Array): Int32Array {
	const { length } = points;
	return points.map((value, i) => points[(i + length - 2) % length]! + value + points[(i + 2) % length]!);
}

function direction(dx: number, dy: number): number {
	const turn = Math.atan2(dy, dx) / (2 * Math.PI);
	return Math.floor((turn + 1 + 0.5 / DIRECTIONS) * DIRECTIONS) % DIRECTIONS;
}

function cell(low: number, high: number): number {
	return (high * (high + 1)) / 2 + low;
}

/** The roots of the shares of a hinge; their squares add up to about 1. */
export function unpackHinge(hinge: string): Float64Array {
	const text = atob(hinge);
	return Float64Array.from(text, (c) => c.charCodeAt(0) / SCALE);
}

function middle(values: readonly number[]): number {
	return values.length === 0 ? 0 : [...values].sort((a, b) => a - b)[values.length >> 1]!;
}

function round(value: number): number {
	return Math.round(1000 * value) / 1000;
}
