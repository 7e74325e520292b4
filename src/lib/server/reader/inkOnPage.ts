import { below } from '../../core/raster/below';
import { components, type Component } from '../../core/raster/components';
import type { Picture, Plane } from '../../core/raster/picture';
import { writingMask, type WritingMask } from '../../core/legibility/writingMask';
import { percentile } from '../../core/raster/percentile';
import { halve } from '../../core/raster/halve';
import { findFrames, type Frame } from '../../core/reading/frames';
import { blackAndWhite } from '../../core/tone/blackAndWhite';
import { strokeWidth } from '../../core/tone/strokeWidth';

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
	/** The page without its frames: they keep readers from seeing what is in them. */
	readonly clean: Plane;
}

type Groups = ReturnType<typeof components>;

/** Noise of the paper that preparing leaves, in grey levels. */
const NOISE = 1;
/** The rim of the page is not told from rules: writing there stays. */
const RIM = 0.012;

/** @param page evenly lit, at about 200 dots an inch */
export function inkOnPage(page: Plane, dotsPerInch: number): InkOnPage {
	const { width, height } = page;
	const all = below(blackAndWhite(page, dotsPerInch), 1);
	const writing = writingMask(halve(page), NOISE);
	const beside = writing.ruling > 0 ? nearWriting(all, writing, width, height) : all;
	const { dark, told, mixed } = withoutRules(page, all, beside);
	const darkGroups = beside === all ? null : components(dark, width, height);
	const ink = mixed ? dark : told && darkGroups ? withWhole(beside, darkGroups) : beside;
	const { list, labels } = mixed && darkGroups ? darkGroups : components(ink, width, height);
	const stroke = strokeWidth(ink, width, height);
	const letter = letterHeight(
		list.map((c) => c.y1 - c.y0),
		stroke
	);
	const found = findFrames(list, labels, width, letter, stroke);
	const rings = darkGroups ? flatRings(darkGroups, beside, width, letter, stroke) : [];
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
		cleared(rings, page, dark),
		ink
	);
	return { list, labels, stroke, letter, frames, clean };
}

/** Ink that is also seen without rules and squares, at half the size. */
function nearWriting(ink: Uint8Array, writing: WritingMask, width: number, height: number): Uint8Array {
	const rim = Math.ceil(RIM * Math.min(width, height));
	const near = dilated(writing);
	const kept = new Uint8Array(ink.length);
	for (let y = 0; y < height; y++) {
		const row = Math.min(writing.height - 1, y >> 1) * writing.width;
		const outside = y < rim || y >= height - rim;
		for (let x = 0; x < width; x++) {
			const i = y * width + x;
			if (!ink[i]) continue;
			if (outside || x < rim || x >= width - rim || near[row + Math.min(writing.width - 1, x >> 1)])
				kept[i] = 1;
		}
	}
	return kept;
}

/** So much of a letter is seen beside rules where it is one. */
const SEEN = 0.2;

/** Ink beside rules, and what of dark ink hangs together with it: a stroke may run along a rule. */
function withWhole(beside: Uint8Array, { list, labels }: Groups): Uint8Array {
	const seen = new Uint32Array(list.length + 1);
	for (let i = 0; i < labels.length; i++) if (beside[i]) seen[labels[i]!]!++;
	return beside.map((here, i) => {
		const group = labels[i]!;
		return here || (group > 0 && seen[group]! >= SEEN * list[group - 1]!.area) ? 1 : 0;
	});
}

/** So much of a ring is seen beside ruling: its ends, where it is steep. */
const STEEP = 0.25;

/** Rings whose flat sides pass for rules: found in all ink that is darker than these. */
function flatRings(
	{ list, labels }: Groups,
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

/** Rules are told from ink by their grey where they are lighter by this. */
const LIGHTER = 30;
const CLEARLY_LIGHTER = 60;
/** So much of the ink beside rules is surely none of them, and tells how dark writing is. */
const SURELY = 0.2;

/**
 * Ink that is darker than rules are, as far as these differ.
 *
 * @returns `told`: they differ clearly; `mixed`: yet most of what is left beside rules is as light as they are
 */
function withoutRules(
	{ data }: Plane,
	all: Uint8Array,
	beside: Uint8Array
): { dark: Uint8Array; told: boolean; mixed: boolean } {
	const rules = new Uint32Array(256);
	const writing = new Uint32Array(256);
	for (let i = 0; i < all.length; i++) if (all[i]) (beside[i] ? writing : rules)[data[i]!]!++;
	const [light, dark] = [percentile(rules, 0.5), percentile(writing, SURELY)];
	if (beside === all || light - dark < LIGHTER) return { dark: all, told: false, mixed: false };
	const between = (light + dark) / 2;
	const kept = new Uint8Array(all.length);
	for (let i = 0; i < all.length; i++) if (all[i] && data[i]! < between) kept[i] = 1;
	const told = light - dark >= CLEARLY_LIGHTER;
	return { dark: kept, told, mixed: told && percentile(writing, 0.5) > between };
}

function touch(one: Frame['inside'], other: Frame['inside']): boolean {
	return one[0] < other[2] && other[0] < one[2] && one[1] < other[3] && other[1] < one[3];
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
