import { around } from '../raster/around';
import { components, eachPixelOf, type Component } from '../raster/components';
import { countInk } from '../raster/below';
import { eachInk } from '../raster/eachInk';
import { median } from '../raster/percentile';
import type { Plane } from '../raster/picture';
import { PROFILE_ROWS } from './legibility';
import { TILE_COLUMNS, TILES } from './tiles';
import type { WritingMask } from './writingMask';

// Lengths and areas are of the page at half its size.

/** Smaller marks say nothing about others: they may be dots, and stay with the writing that they are as dark as. */
const LEAST_AREA = 12;
const LEAST_DOT = 2;
const AS_DARK = 0.4;
/** A mark is of the page's own ink where at least so much of it is. */
const OWN = 0.75;
/** Fewer marks, and a smaller part of all, are no writing by themselves. */
const LEAST_MARKS = 8;
const LEAST_SHARE = 0.01;
/** What is no higher, or no wider, than this may be what is left of a rule; of writing not so much is. */
const THIN = 3;
const MOST_THIN = 0.5;
/** Grey levels below white: what is fainter lies in the paper, or on its other side. */
const LEAST_DARKNESS = 25;
/** Beside the page's own strokes: writing that shows through is less steep. */
const AS_STEEP = 0.8;
/** Own ink within so many inches of a mark: two lines, and what is fainter is beside something. */
const NEAR_INCHES = 0.3;
/** Fewer marks by themselves are stains. */
const LEAST_ALONE = 24;
/** A filled area is larger than this both ways, and covers so much of its box. */
const LARGE = 24;
const SOLID = 0.45;
/** How far around a mark another mark belongs to the same writing. */
const BESIDE = 10;

/**
 * Pencil beside a pen: of the marks that are much fainter than a page's own ink, those that are as sharp as its strokes, and
 * so lie on this side of the paper.
 *
 * @param marks all that is written, `width x height`, half the page's size: see `marksOn`
 * @param own 1 where the page's own ink is
 * @param grey the page, evenly lit
 * @returns 1 where they are; null where there are none
 */
export function faintMarks(
	marks: Uint8Array,
	own: Uint8Array,
	{ width, height }: Pick<Plane, 'width' | 'height'>,
	grey: Plane
): Uint8Array | null {
	const groups = components(marks, width, height);
	const isOwn = ownOf(groups, own, width);
	const all = groups.list.map((group, index): Mark => ({ group, index })).filter((m) => !isDust(m.group));
	const written = all.filter((m) => isOwn[m.index] && !isSmall(m.group));
	const allFaint = all.filter((m) => !isOwn[m.index] && !isSolid(m.group));
	const faint = allFaint.filter((m) => !isSmall(m.group));
	if (!mayBeWriting(faint, written)) return null;
	const strength = (mark: Mark) => strengthOf(mark, groups.labels, width, grey);
	const strengths = faint.map(strength);
	const darkness = median(strengths.map((s) => s.darkness));
	const steepness = median(strengths.map((s) => s.steepness));
	const isSharp = steepness >= AS_STEEP * median(written.map((m) => strength(m).steepness));
	if (darkness < LEAST_DARKNESS || !isSharp) return null;
	const writing = faint.filter((m) => !isThin(m.group));
	const near = around(pixelsOf(writing, groups.labels, width), width, height, BESIDE);
	const beside = allFaint.filter(
		(m) =>
			isThin(m.group) && touches(m, groups.labels, width, near) && strength(m).darkness >= AS_DARK * darkness
	);
	return pixelsOf([...writing, ...beside], groups.labels, width);
}

/** Writing together with what of the page's marks is fainter, but writing too. */
export function withFaintMarks(writing: WritingMask, grey: Plane): WritingMask {
	// Less was dropped than one mark in a hundred would come to.
	if (writing.faint < LEAST_SHARE * (1 - OWN)) return writing;
	const found = faintMarks(writing.marks, writing.data, writing, grey);
	if (!found) return writing;
	const data = writing.data.map((v, i) => v | found[i]!);
	const count = countInk(data);
	const faint = 1 - count / Math.max(1, countInk(writing.marks));
	return { ...writing, data, coverage: count / data.length, faint: Math.max(0, faint) };
}

export interface FaintAlone {
	/** Of all that is marked, 0 to 1. */
	readonly share: number;
	/** How much of it lies on each tile of the page, in pixels. */
	readonly tiles: Float64Array;
}

/**
 * What is marked on a page, but too faint for its own ink, and stands by itself, where nothing else is written:
 * pencil so soft or so faint that it may as well be the other side's writing, or the other side's writing.
 *
 * @param dotsPerInch of the page at half its size
 */
export function faintAlone(writing: WritingMask, dotsPerInch: number): FaintAlone {
	const { width, height, data, marks } = writing;
	const groups = components(marks, width, height);
	const isOwn = ownOf(groups, data, width);
	const all = groups.list.map((group, index): Mark => ({ group, index })).filter((m) => !isSmall(m.group));
	const own = all.filter((m) => isOwn[m.index]);
	const reach = Math.round(NEAR_INCHES * dotsPerInch);
	const near = around(pixelsOf(own, groups.labels, width), width, height, reach);
	const isBeside = ownOf(groups, near, width);
	const alone = all.filter((m) => !isBeside[m.index] && !isThin(m.group) && !isSolid(m.group));
	const tiles = new Float64Array(TILES);
	for (const { group } of alone) {
		const column = Math.floor((TILE_COLUMNS * (group.x0 + group.x1)) / 2 / width);
		const row = Math.floor((PROFILE_ROWS * (group.y0 + group.y1)) / 2 / height);
		tiles[row * TILE_COLUMNS + column]! += group.area;
	}
	const share = alone.length < LEAST_ALONE ? 0 : area(alone) / (area(alone) + area(own));
	return { share, tiles };
}

const area = (marks: readonly Mark[]) => marks.reduce((sum, m) => sum + m.group.area, 0);

/** A connected group of marks. */
interface Mark {
	readonly group: Component;
	/** In the list of groups. */
	readonly index: number;
}

/** Of each group, whether enough of it is the page's own ink. */
function ownOf(
	{ list, labels }: { readonly list: readonly Component[]; readonly labels: Int32Array },
	ink: Uint8Array,
	width: number
): boolean[] {
	const inside = new Uint32Array(list.length + 1);
	eachInk(ink, width, (i) => inside[labels[i]!]!++);
	return list.map(({ area }, k) => inside[k + 1]! >= OWN * area);
}

/** How dark a mark is, in grey levels below white, and how much its grey changes over two pixels, beside that. */
function strengthOf(
	{ group, index }: Mark,
	labels: Int32Array,
	width: number,
	{ width: w, height: h, data }: Plane
): { readonly darkness: number; readonly steepness: number } {
	let [darkness, steepness] = [0, 0];
	eachPixelOf(group, index, labels, width, (i) => {
		const [x, y] = [2 * (i % width), 2 * Math.floor(i / width)];
		for (let v = Math.max(1, y); v < Math.min(h - 1, y + 2); v++) {
			for (let u = Math.max(1, x); u < Math.min(w - 1, x + 2); u++) {
				const p = v * w + u;
				darkness += 255 - data[p]!;
				steepness += Math.max(Math.abs(data[p + 1]! - data[p - 1]!), Math.abs(data[p + w]! - data[p - w]!));
			}
		}
	});
	return { darkness: darkness / (4 * group.area), steepness: steepness / Math.max(1, darkness) };
}

/** Whether what is faint is so much, and so formed, that it may be writing of its own. */
function mayBeWriting(faint: readonly Mark[], own: readonly Mark[]): boolean {
	if (faint.length < LEAST_MARKS) return false;
	if (area(faint) < LEAST_SHARE * (area(faint) + area(own))) return false;
	return faint.filter((m) => isThin(m.group)).length <= MOST_THIN * faint.length;
}

function isDust({ area }: Component): boolean {
	return area < LEAST_DOT;
}

function isSmall({ area }: Component): boolean {
	return area < LEAST_AREA;
}

function isThin({ x0, y0, x1, y1 }: Component): boolean {
	return Math.min(x1 - x0, y1 - y0) <= THIN;
}

function isSolid({ x0, y0, x1, y1, area }: Component): boolean {
	return Math.min(x1 - x0, y1 - y0) > LARGE && area > SOLID * (x1 - x0) * (y1 - y0);
}

function pixelsOf(marks: readonly Mark[], labels: Int32Array, width: number): Uint8Array {
	const out = new Uint8Array(labels.length);
	for (const { group, index } of marks) eachPixelOf(group, index, labels, width, (i) => (out[i] = 1));
	return out;
}

function touches({ group, index }: Mark, labels: Int32Array, width: number, near: Uint8Array): boolean {
	let is = false;
	eachPixelOf(group, index, labels, width, (i) => (is ||= near[i] === 1));
	return is;
}
