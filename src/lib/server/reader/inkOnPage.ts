import { below } from '../../core/raster/below';
import type { Component } from '../../core/raster/components';
import type { Picture, Plane } from '../../core/raster/picture';
import type { WritingMask } from '../../core/legibility/writingMask';
import { inkBesideRules, type InkGroups } from '../../core/reading/besideRules';
import { withoutCrossings } from '../../core/reading/crossings';
import { findFrames, type Frame } from '../../core/reading/frames';
import { blackAndWhite } from '../../core/tone/blackAndWhite';

/** The ink of a page, group by group. */
export interface InkOnPage {
	readonly list: readonly Component[];
	/** For every pixel the number of its group plus one, 0 for paper. */
	readonly labels: Int32Array;
	/** Usual width of a stroke in pixels. */
	readonly stroke: number;
	/** Usual height of a letter in pixels. */
	readonly letter: number;
	/** What is drawn around labels or under them. */
	readonly frames: readonly Frame[];
	/** The page without its frames, which keep readers from seeing what is in them; the page itself where there are none. */
	readonly clean: Plane;
	/** What is marked on the page at half its size, and how far its rules stand out. */
	readonly writing: WritingMask;
}

/** @param page evenly lit, at about 200 dots an inch */
export function inkOnPage(page: Plane, dotsPerInch: number): InkOnPage {
	const { width } = page;
	const told = inkBesideRules(page, below(blackAndWhite(page, dotsPerInch), 1), dotsPerInch);
	const { beside, dark } = told;
	const { ink, list, labels, stroke } = withoutCrossings(told.groups, page, dotsPerInch);
	const letter = letterHeight(
		list.map((c) => c.y1 - c.y0),
		stroke
	);
	const found = findFrames(list, labels, width, letter, stroke);
	const rings = dark ? flatRings(dark, beside, width, letter, stroke) : [];
	const frames = [...rings, ...found.filter((f) => !rings.some((ring) => touch(f.inside, ring.inside)))];
	const cleared = (some: readonly Frame[], from: Plane, beside: Uint8Array) =>
		withoutFrames(
			from,
			some.flatMap((f) => f.pixels),
			beside,
			stroke
		);
	const clean = cleared(
		frames.filter((f) => !rings.includes(f)),
		cleared(rings, page, dark?.ink ?? ink),
		ink
	);
	return { list, labels, stroke, letter, frames, clean, writing: told.writing };
}

/** So much of a ring is seen beside ruling: its ends, where it is steep. */
const STEEP = 0.25;

/** Rings whose flat sides pass for rules: found in all ink that is darker than these. */
function flatRings(
	{ list, labels }: InkGroups,
	beside: Uint8Array,
	width: number,
	letter: number,
	stroke: number
): Frame[] {
	const rings = findFrames(list, labels, width, letter, stroke).filter((f) => f.kind === 'around');
	return rings.filter(
		({ pixels }) => pixels.reduce((sum, p) => sum + beside[p]!, 0) >= STEEP * pixels.length
	);
}

function touch(one: Frame['inside'], other: Frame['inside']): boolean {
	return one[0] < other[2] && other[0] < one[2] && one[1] < other[3] && other[1] < one[3];
}

/** Usual height of a letter: the middle one of all groups of ink that are more than dots. */
function letterHeight(heights: readonly number[], stroke: number): number {
	const letters = heights.filter((h) => h > 3 * stroke).sort((a, b) => a - b);
	return letters[letters.length >> 1] ?? 20;
}

function withoutFrames(page: Plane, pixels: readonly number[], ink: Uint8Array, stroke: number): Plane {
	if (pixels.length === 0) return page;
	const { width, height } = page;
	const data = new Uint8Array(page.data);
	const frame = new Set(pixels);
	// The soft edge of a stroke lies outside its ink; what crosses it is not its edge.
	const reach = Math.max(1, Math.round(stroke / 3));
	for (const p of pixels) {
		const x = p % width;
		const y = (p - x) / width;
		for (let v = Math.max(0, y - reach); v <= Math.min(height - 1, y + reach); v++) {
			for (let u = Math.max(0, x - reach); u <= Math.min(width - 1, x + reach); u++) {
				const i = v * width + u;
				if (!ink[i] || frame.has(i)) data[i] = 255;
			}
		}
	}
	return { width, height, data };
}

/** A plane as the general reader wants it. */
export function inColour({ width, height, data }: Plane): Picture {
	const rgb = new Uint8Array(3 * data.length);
	for (let i = 0, p = 0; i < data.length; i++, p += 3) rgb[p] = rgb[p + 1] = rgb[p + 2] = data[i]!;
	return { width, height, channels: 3, data: rgb };
}
