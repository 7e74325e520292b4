import { RIM, writingMask, type WritingMask } from '../legibility/writingMask';
import { countInk } from '../raster/below';
import { broad, thicknessOf } from '../raster/broad';
import { components, eachPixelOf, type Component } from '../raster/components';
import { eachInk } from '../raster/eachInk';
import { halve } from '../raster/halve';
import { median, percentile } from '../raster/percentile';
import type { Plane } from '../raster/picture';
import { strokeWidth } from '../tone/strokeWidth';

/** Some ink of a page and its groups. */
export interface InkGroups {
	/** 1 for ink, `width x height`. */
	readonly ink: Uint8Array;
	readonly list: readonly Component[];
	/** For every pixel the number of its group plus one, 0 for paper. */
	readonly labels: Int32Array;
}

/** The writing of a page, told from its rules. */
export interface BesideRules {
	readonly groups: InkGroups;
	/** Ink where no rules run. */
	readonly beside: Uint8Array;
	/** Where the page's ink has rules in it, what is darker than they are; null where it has none. */
	readonly dark: InkGroups | null;
	/** What is marked on the page at half its size, and how far its rules stand out. */
	readonly writing: WritingMask;
}

/** Noise of the paper that preparing leaves, in grey levels. */
const NOISE = 1;
/** What passes for a rule and is longer than this, in millimetres, is one where enough of it is there: so many widths of the page. */
const LONG = 5;
const ENOUGH = 4;
/** Where all that is thin and passes for rules is shorter than so many widths of the page, hardly any are left. */
const FEW = 0.4;
/** Of rules, so many pixels for each of the page's width tell how dark they are. */
const TELLING = 2;
/** What passes for a rule and touches writing, and is no longer than so many strokes are broad, is where a stroke crosses one. */
const CROSSING = 2;
/** What is as broad as this part of a stroke is one that runs along a rule; it is also broader than rules are by so many pixels. */
const BROAD = 0.75;
const BROADER = 1;
/** … and what is as dark as writing as this part of one: a blurred stroke darkens the rules beside it, and these stay thin. */
const AS_DARK = 0.6;

/**
 * The ink of a page without its rules and squares. Where black and white has left rules out already, what lies along
 * them is letters', and no more is taken away than is clearly lighter than the writing beside it.
 *
 * @param page evenly lit
 * @param all its ink, `width x height`
 */
export function inkBesideRules(page: Plane, all: Uint8Array, dotsPerInch: number): BesideRules {
	const { width, height } = page;
	const grouped = (ink: Uint8Array): InkGroups => ({ ink, ...components(ink, width, height) });
	const writing = writingMask(halve(page), NOISE);
	if (writing.ruling === 0) return { groups: grouped(all), beside: all, dark: null, writing };
	const { near: beside, far } = byWriting(all, writing, width, height);
	const stroke = strokeWidth(beside, width, height);
	const passed = grouped(far);
	const leftOut = greyOfRules(page, all, writing);
	const { isStroke, isRule } = judged(
		passed.list,
		besideWriting(passed, page, beside, leftOut),
		leftOut !== null,
		stroke,
		LONG * (dotsPerInch / 25.4),
		width
	);
	const letters = withGroups(beside, width, passed, (_, k) => isStroke[k]!);
	const rules = withGroups(new Uint8Array(all.length), width, passed, (_, k) => isRule[k]!);
	if (countInk(rules) < TELLING * width) return { groups: grouped(letters), beside, dark: null, writing };
	const { dark, clearly, mixed } = darkerThan(rules, page, all, beside);
	const darkGroups = grouped(dark);
	if (mixed) return { groups: darkGroups, beside, dark: darkGroups, writing };
	const ink = clearly ? withWhole(letters, width, darkGroups) : withBroad(letters, all, rules, width, height);
	return { groups: grouped(ink), beside, dark: darkGroups, writing };
}

/** Ink that is also seen without rules and squares, at half the size, and what is not. */
function byWriting(
	ink: Uint8Array,
	writing: WritingMask,
	width: number,
	height: number
): { near: Uint8Array; far: Uint8Array } {
	const rim = Math.ceil(RIM * Math.min(width, height));
	const seen = dilated(writing);
	const [near, far] = [new Uint8Array(ink.length), new Uint8Array(ink.length)];
	eachInk(ink, width, (i) => {
		const x = i % width;
		const y = (i - x) / width;
		// Rules are not told there, and writing stays.
		const isRim = x < rim || x >= width - rim || y < rim || y >= height - rim;
		const at = Math.min(writing.height - 1, y >> 1) * writing.width + Math.min(writing.width - 1, x >> 1);
		(isRim || seen[at] ? near : far)[i] = 1;
	});
	return { near, far };
}

/** So much of a letter is seen beside rules where it is one. */
const SEEN = 0.2;

/**
 * What of the ink that passes for rules is strokes that cross them or run along them, and what is rules.
 *
 * @param writing what writing each lies beside
 * @param areLeftOut whether the page has rules that are not in its ink
 * @param long pixels from which on it may be a rule
 * @param width of the page in pixels
 */
function judged(
	list: readonly Component[],
	writing: readonly Beside[],
	areLeftOut: boolean,
	stroke: number,
	long: number,
	width: number
): { isStroke: boolean[]; isRule: boolean[] } {
	const sizes = list.map(({ x0, y0, x1, y1 }) => Math.max(x1 - x0, y1 - y0));
	const breadths = list.map(({ area }, k) => area / sizes[k]!);
	const isLong = sizes.map((size) => size >= long);
	// Lines that cross are one group, and longer than it.
	const lengths = list.map(({ area }, k) => (isLong[k] ? Math.max(sizes[k]!, area / stroke) : 0));
	const all = lengths.reduce((sum, length) => sum + length, 0);
	const areThere = all >= ENOUGH * width;
	const isThin = sizes.map((size, k) => size > CROSSING * stroke && breadths[k]! < BROAD * stroke);
	const thin = sizes.reduce((sum, size, k) => sum + (isThin[k] ? size : 0), 0);
	if (!areThere && thin < FEW * width) {
		return {
			isStroke: writing.map(({ as }) => !areLeftOut || as !== 'rules'),
			isRule: list.map(() => false)
		};
	}
	const ofRules = areThere ? median(breadths.filter((_, k) => isLong[k])) : 0;
	const least = Math.max(BROAD * stroke, ofRules && ofRules + BROADER);
	const isStroke = sizes.map(
		(size, k) =>
			writing[k]!.as !== 'rules' &&
			((writing[k]!.touches && size <= CROSSING * stroke) ||
				(breadths[k]! >= (writing[k]!.as === 'writing' ? AS_DARK * stroke : least) && !isNet(k)))
	);
	return { isStroke, isRule: isLong.map((is, k) => is && !isStroke[k]) };

	function isNet(k: number): boolean {
		const { x0, y0, x1, y1 } = list[k]!;
		return Math.min(x1 - x0, y1 - y0) >= long;
	}
}

/** The writing beside something that passes for a rule. */
interface Beside {
	readonly touches: boolean;
	/** What it is as dark as, as far as the two differ: what crosses a rule is as dark there as beside it. */
	readonly as: 'writing' | 'rules' | 'both';
}

/** So near to a stroke, in pixels, is its dark middle seen. */
const REACH = 2;
/** The dark part of something is darker than the rest of it. */
const DARK = 0.25;
/** Where rules are clearly lighter than writing, what is less lighter than this part of that is writing. */
const NEARLY = 1 / 3;

/** @param rules how dark the page's rules are where black and white has left them out; null where there are none */
function besideWriting(
	{ ink, list, labels }: InkGroups,
	{ data, width, height }: Plane,
	writing: Uint8Array,
	rules: number | null
): Beside[] {
	const greys = list.map((): number[] => []);
	const near = list.map((): number[] => []);
	const touches = list.map(() => false);
	eachInk(ink, width, (i) => {
		const x = i % width;
		const y = (i - x) / width;
		const group = labels[i]! - 1;
		greys[group]!.push(data[i]!);
		for (let v = Math.max(0, y - REACH); v <= Math.min(height - 1, y + REACH); v++) {
			for (let u = Math.max(0, x - REACH); u <= Math.min(width - 1, x + REACH); u++) {
				if (!writing[v * width + u]) continue;
				near[group]!.push(data[v * width + u]!);
				if (Math.abs(v - y) < 2 && Math.abs(u - x) < 2) touches[group] = true;
			}
		}
	});
	const dark = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(DARK * values.length)]!;
	return list.map((_, k) => {
		if (near[k]!.length === 0) return { touches: false, as: 'both' };
		const [own, beside] = [dark(greys[k]!), dark(near[k]!)];
		const differ = rules === null ? 0 : rules - beside;
		if (differ > CLEARLY_LIGHTER && own - beside < NEARLY * differ)
			return { touches: touches[k]!, as: 'writing' };
		return { touches: touches[k]!, as: own - beside > LIGHTER ? 'rules' : 'both' };
	});
}

/** Grey levels: what is as light as this is bare paper, and what is darker may be faint ink or a rule. */
export const FAINT = 228;
/** Rules that are left out are seen on so many pixels for each of the page's width, so far from ink that they are no edge of it. */
const SEEN_ON = 4;
const CLEAR = 3;
/** Of them, so much is as dark as where black and white takes a rule for ink. */
const DARKEST = 0.1;

/** How dark the rules are that black and white has left out of a page's ink; null where there are none. */
function greyOfRules({ data, width, height }: Plane, all: Uint8Array, writing: WritingMask): number | null {
	const greys = new Uint32Array(256);
	for (let y = CLEAR; y < height - CLEAR; y += 2) {
		const row = Math.min(writing.height - 1, y >> 1) * writing.width;
		const end = (y + 1) * width - CLEAR;
		for (let i = y * width + CLEAR; i < end; i++) {
			const grey = data[i]!;
			if (grey >= FAINT || all[i]) continue;
			const column = Math.min(writing.width - 1, (i - y * width) >> 1);
			if (!writing.data[row + column] && !isInkWithin(all, i, width)) greys[grey]!++;
		}
	}
	const seen = greys.reduce((sum, count) => sum + count, 0);
	return 2 * seen < SEEN_ON * width ? null : percentile(greys, DARKEST);
}

function isInkWithin(all: Uint8Array, at: number, width: number): boolean {
	for (let row = at - CLEAR * width; row <= at + CLEAR * width; row += width) {
		for (let i = row - CLEAR; i <= row + CLEAR; i++) if (all[i]) return true;
	}
	return false;
}

/** Ink beside rules, and what else hangs together with it: a stroke may run along a rule. */
function withWhole(
	beside: Uint8Array,
	width: number,
	{ list, labels }: Pick<InkGroups, 'list' | 'labels'>
): Uint8Array {
	const seen = new Uint32Array(list.length + 1);
	eachInk(beside, width, (i) => seen[labels[i]!]!++);
	return withGroups(beside, width, { list, labels }, ({ area }, k) => seen[k + 1]! >= SEEN * area);
}

/** Some ink, and all pixels of the groups that are chosen. */
function withGroups(
	ink: Uint8Array,
	width: number,
	{ list, labels }: Pick<InkGroups, 'list' | 'labels'>,
	isChosen: (group: Component, k: number) => boolean
): Uint8Array {
	const out = ink.slice();
	list.forEach((group, k) => {
		if (isChosen(group, k)) eachPixelOf(group, k, labels, width, (i) => (out[i] = 1));
	});
	return out;
}

/** Ink beside rules, and what hangs together with it and is broader than rules are: strokes cross them and run along them. */
function withBroad(
	beside: Uint8Array,
	all: Uint8Array,
	rules: Uint8Array,
	width: number,
	height: number
): Uint8Array {
	const side = thicknessOf(all, rules, width, height) + BROADER;
	if (strokeWidth(beside, width, height) < side) return beside;
	const strokes = broad(all, width, height, side);
	for (let i = 0; i < strokes.length; i++) strokes[i]! |= beside[i]!;
	return withWhole(beside, width, components(strokes, width, height));
}

/** Rules are told from ink by their grey where they are lighter by this. */
const LIGHTER = 30;
const CLEARLY_LIGHTER = 60;
/** So much of the ink beside rules is surely none of them, and tells how dark writing is. */
const SURELY = 0.2;

/** Where less than this of the ink beside rules lies far from dark ink, what is light of it is the edges of strokes. */
const MIXED = 0.2;

/**
 * Ink that is darker than rules are, as far as these differ.
 *
 * @returns `clearly`: they differ much; `mixed`: yet most of what is left beside rules is as light as they are
 */
function darkerThan(
	ofRules: Uint8Array,
	{ data, width, height }: Plane,
	all: Uint8Array,
	beside: Uint8Array
): { dark: Uint8Array; clearly: boolean; mixed: boolean } {
	const rules = new Uint32Array(256);
	const writing = new Uint32Array(256);
	eachInk(all, width, (i) => {
		if (beside[i]) writing[data[i]!]!++;
		else if (ofRules[i]) rules[data[i]!]!++;
	});
	const [light, dark] = [percentile(rules, 0.5), percentile(writing, SURELY)];
	if (light - dark < LIGHTER) return { dark: all, clearly: false, mixed: false };
	const between = (light + dark) / 2;
	const kept = new Uint8Array(all.length);
	eachInk(all, width, (i) => (kept[i] = Number(data[i]! < between)));
	const clearly = light - dark >= CLEARLY_LIGHTER;
	const areLight = clearly && percentile(writing, 0.5) > between;
	return { dark: kept, clearly, mixed: areLight && shareFar(beside, kept, width, height) > MIXED };
}

/** How much of some ink is further from dark ink than the soft edge of a stroke is from its middle. */
function shareFar(ink: Uint8Array, dark: Uint8Array, width: number, height: number): number {
	let far = 0;
	let all = 0;
	eachInk(ink, width, (i) => {
		const x = i % width;
		const y = (i - x) / width;
		all++;
		for (let v = Math.max(0, y - REACH); v <= Math.min(height - 1, y + REACH); v++) {
			for (let u = Math.max(0, x - REACH); u <= Math.min(width - 1, x + REACH); u++) {
				if (dark[v * width + u]) return;
			}
		}
		far++;
	});
	return far / Math.max(1, all);
}

function dilated({ data, width, height }: WritingMask): Uint8Array {
	const out = data.slice();
	for (let y = 1; y < height - 1; y++) {
		for (let x = 1, i = y * width + 1; x < width - 1; x++, i++) {
			if (!data[i]) continue;
			out[i - 1] = out[i + 1] = out[i - width] = out[i + width] = 1;
		}
	}
	return out;
}
