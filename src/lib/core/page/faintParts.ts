import { marksOn } from '../legibility/writingMask';
import { around } from '../raster/around';
import { components, eachPixelOf, type Component } from '../raster/components';
import { eachInk } from '../raster/eachInk';
import { halve } from '../raster/halve';
import { median } from '../raster/percentile';
import type { Plane } from '../raster/picture';
import { blackAndWhite } from '../tone/blackAndWhite';

// Lengths and areas are of the page at half its size.

/** Smaller marks say nothing about others: they may be dots, and stay with the writing that they are as dark as. */
const LEAST_AREA = 12;
const LEAST_DOT = 2;
const AS_DARK = 0.4;
/** A mark is lost with less of it in black and white than this. */
const LOST = 0.75;
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
/** A filled area is larger than this both ways, and covers so much of its box. */
const LARGE = 24;
const SOLID = 0.45;
/** How far around a mark its grey belongs to it, and another mark to the same writing. */
const SOFT = 2;
const BESIDE = 10;

/**
 * Black and white holds a page to its darkest ink, and loses faint pencil beside a pen. Writing that is lost as a whole, and
 * is as sharp as the rest, is held to its own standard.
 *
 * @param done the page in black and white: 0 for ink and 255 for paper
 * @param grey the same page, evenly lit
 * @param noise standard deviation of bare paper, in grey levels
 * @returns `done` itself where nothing is lost
 */
export function withFaintParts(
	done: Plane,
	grey: Plane,
	noise: number,
	dotsPerInch: number,
	inkWeight = 0
): Plane {
	const small = halve(grey);
	const { width, height } = small;
	const marks = components(marksOn(small, noise / 2).mask, width, height);
	const isKept = keptIn(marks, around(inkAtHalf(done, width, height), width, height, 1), width);
	const all = marks.list.map((group, index): Mark => ({ group, index })).filter((m) => !isDust(m.group));
	const own = all.filter((m) => isKept[m.index] && !isSmall(m.group));
	const allLost = all.filter((m) => !isKept[m.index] && !isSolid(m.group));
	const lost = allLost.filter((m) => !isSmall(m.group));
	if (!mayBeWriting(lost, own)) return done;
	const strength = (mark: Mark) => strengthOf(mark, marks.labels, width, grey);
	const strengths = lost.map(strength);
	const darkness = median(strengths.map((s) => s.darkness));
	const steepness = median(strengths.map((s) => s.steepness));
	const isSharp = steepness >= AS_STEEP * median(own.map((m) => strength(m).steepness));
	if (darkness < LEAST_DARKNESS || !isSharp) return done;
	const writing = lost.filter((m) => !isThin(m.group));
	const near = around(pixelsOf(writing, marks.labels, width), width, height, BESIDE);
	const beside = allLost.filter(
		(m) =>
			isThin(m.group) && touches(m, marks.labels, width, near) && strength(m).darkness >= AS_DARK * darkness
	);
	const soft = around(pixelsOf([...writing, ...beside], marks.labels, width), width, height, SOFT);
	const faint = blackAndWhite(onlyAt(grey, soft, width, height), dotsPerInch, inkWeight);
	const data = new Uint8Array(done.data);
	for (let i = 0; i < data.length; i++) if (faint.data[i] === 0) data[i] = 0;
	return { ...done, data };
}

/** A connected group of marks. */
interface Mark {
	readonly group: Component;
	/** In the list of groups. */
	readonly index: number;
}

/** 1 where a page in black and white has ink in any of four pixels. */
function inkAtHalf({ width, height, data }: Plane, w: number, h: number): Uint8Array {
	const out = new Uint8Array(w * h);
	for (let y = 0; y < height; y++) {
		const row = Math.min(h - 1, y >> 1) * w;
		for (let x = 0, i = y * width; x < width; x++, i++) {
			if (data[i] === 0) out[row + Math.min(w - 1, x >> 1)] = 1;
		}
	}
	return out;
}

/** Of each group, whether enough of it lies at ink. */
function keptIn(
	{ list, labels }: { readonly list: readonly Component[]; readonly labels: Int32Array },
	ink: Uint8Array,
	width: number
): boolean[] {
	const kept = new Uint32Array(list.length + 1);
	eachInk(ink, width, (i) => kept[labels[i]!]!++);
	return list.map(({ area }, k) => kept[k + 1]! >= LOST * area);
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

/** Whether what was lost is so much, and so formed, that it may be writing of its own. */
function mayBeWriting(lost: readonly Mark[], own: readonly Mark[]): boolean {
	if (lost.length < LEAST_MARKS) return false;
	const area = (marks: readonly Mark[]) => marks.reduce((sum, m) => sum + m.group.area, 0);
	if (area(lost) < LEAST_SHARE * (area(lost) + area(own))) return false;
	return lost.filter((m) => isThin(m.group)).length <= MOST_THIN * lost.length;
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

/** A page that is bare but at a mask of half its size. */
function onlyAt({ width, height, data }: Plane, mask: Uint8Array, w: number, h: number): Plane {
	const out = new Uint8Array(data.length).fill(255);
	for (let y = 0; y < height; y++) {
		const row = Math.min(h - 1, y >> 1) * w;
		for (let x = 0, i = y * width; x < width; x++, i++) {
			if (mask[row + Math.min(w - 1, x >> 1)]) out[i] = data[i]!;
		}
	}
	return { width, height, data: out };
}
