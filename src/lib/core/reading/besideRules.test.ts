import { describe, expect, it } from 'vitest';
import { specimenPage } from '../../../../bench/situations';
import { writingMask } from '../legibility/writingMask';
import { preparePage } from '../page/preparePage';
import { below, countInk } from '../raster/below';
import { halve } from '../raster/halve';
import type { Plane } from '../raster/picture';
import { wholePicture } from '../sheet/geometry';
import { blackAndWhite } from '../tone/blackAndWhite';
import { greyOf } from '../tone/finish';
import { inkBesideRules } from './besideRules';

const TONE = { name: 'greyscale', evenLight: true, inkWeight: 0 } as const;
const DPI = 200;

const made = new Map<number, Plane>();

/** A page of writing on plain paper, made once. */
function page(seed: number): Plane {
	const before = made.get(seed);
	if (before) return before;
	const blocks = [
		{ kind: 'label', text: '2.)' },
		{ kind: 'text', lines: ['the lode runs slower near', 'till it fell - 7 times in all'] }
	] as const;
	const { picture } = specimenPage(seed, 8, {
		ruling: 'plain',
		blocks,
		name: undefined,
		pageNumber: undefined
	});
	const corners = wholePicture(picture.width, picture.height);
	const plane = greyOf(preparePage(picture, { corners, turn: 0, tone: TONE }).finished);
	made.set(seed, plane);
	return plane;
}

const inkOf = (plane: Plane) => below(blackAndWhite(plane, DPI), 1);

/** The page with squares of a grey, 40 pixels wide, and where these run beside its writing. */
function squared(writing: Plane, grey: number): { plane: Plane; rules: Uint8Array } {
	const { width, height, data } = writing;
	const letters = inkOf(writing);
	const runs = (i: number) => (i % width) % 40 < 2 || Math.floor(i / width) % 40 < 2;
	return {
		plane: { width, height, data: data.map((v, i) => (runs(i) ? Math.min(v, grey) : v)) },
		rules: letters.map((ink, i) => Number(!ink && runs(i)))
	};
}

const share = (ink: Uint8Array, of: Uint8Array) => countInk(ink.map((v, i) => v & of[i]!)) / countInk(of);

describe('ink beside rules', () => {
	it('is all ink, where squares are seen and none of them is ink', () => {
		for (const seed of [41, 42, 43]) {
			const { plane, rules } = squared(page(seed), 240);
			expect(writingMask(halve(plane), 1).ruling).toBeGreaterThan(0);
			const ink = inkOf(plane);
			expect(share(ink, rules)).toBeLessThan(0.01);
			const { groups } = inkBesideRules(plane, ink, DPI);
			expect(share(groups.ink, ink)).toBeGreaterThan(0.99);
		}
	});

	it('is the writing, where squares are ink too', () => {
		for (const seed of [41, 42, 43]) {
			const writing = page(seed);
			const { plane, rules } = squared(writing, 110);
			const all = inkOf(plane);
			expect(share(all, rules)).toBeGreaterThan(0.9);
			const { groups } = inkBesideRules(plane, all, DPI);
			expect(share(groups.ink, inkOf(writing))).toBeGreaterThan(0.85);
			expect(share(groups.ink, rules)).toBeLessThan(0.1);
		}
	});

	it('keeps whole strokes where they are soft and a table is drawn with thinner ones', () => {
		for (const seed of [41, 42, 43]) {
			const { drawn, plain } = withTables(page(seed));
			const blurred = (from: Plane) => softened(softened(softened(from)));
			const soft = blurred(drawn);
			const { groups, dark } = inkBesideRules(soft, inkOf(soft), DPI);
			// The table's lines pass for rules.
			expect(dark).not.toBeNull();
			expect(share(groups.ink, inkOf(blurred(plain)))).toBeGreaterThan(0.85);
		}
	});

	it('is the side of a frame that runs along a rule, also where it is thinner than the writing', () => {
		for (const seed of [41, 42]) {
			const { plane, rules } = squared(page(seed), 222);
			const { framed, sides } = withFrames(plane);
			const bits = bitsOf(rules, plane.width);
			const ink = inkOf(framed).map((v, i) => v | bits[i]!);
			const { groups } = inkBesideRules(framed, ink, DPI);
			expect(share(groups.ink, sides)).toBeGreaterThan(0.9);
			expect(share(groups.ink, bits)).toBeLessThan(0.05);
		}
	});
});

/** The page as a blurred picture has it. */
function softened({ width, height, data }: Plane): Plane {
	const out = data.slice();
	for (let y = 1; y < height - 1; y++) {
		for (let x = 1; x < width - 1; x++) {
			const i = y * width + x;
			const across = (at: number) => data[at - 1]! + 2 * data[at]! + data[at + 1]!;
			out[i] = (across(i - width) + 2 * across(i) + across(i + width)) / 16;
		}
	}
	return { width, height, data: out };
}

/** The page without and with tables below its writing. */
function withTables(plain: Plane): { plain: Plane; drawn: Plane } {
	const { width, height, data } = plain;
	const out = data.slice();
	const [top, bottom] = [height - 900, height - 300];
	for (let y = top; y < bottom; y++) {
		for (let x = 150; x < width - 150; x++) {
			if ((y - top) % 80 < 2 || (x - 150) % 150 < 2) out[y * width + x] = 20;
		}
	}
	return { plain, drawn: { width, height, data: out } };
}

/** The page with three frames below its writing, whose left sides run along the squares. */
function withFrames({ width, height, data }: Plane): { framed: Plane; sides: Uint8Array } {
	const sides = new Uint8Array(width * height);
	const out = data.slice();
	for (const left of [120, 320, 520]) {
		const [top, right, bottom] = [height - 330, left + 95, height - 267];
		for (let y = top; y < bottom; y++) {
			for (let x = left; x < right; x++) {
				const isSide = x < left + 2 + (y % 2);
				if (!isSide && x < right - 3 && y >= top + 3 && y < bottom - 3) continue;
				out[y * width + x] = 45;
				if (isSide) sides[y * width + x] = 1;
			}
		}
	}
	return { framed: { width, height, data: out }, sides };
}

/** Short bits of rules, as black and white may leave them. */
function bitsOf(rules: Uint8Array, width: number): Uint8Array {
	return rules.map((rule, i) => {
		const [x, y] = [i % width, Math.floor(i / width)];
		return Number(rule && y > 1000 && y < 1160 && y % 40 < 2 && x > 700 && x % 40 > 12 && x % 40 < 28);
	});
}
