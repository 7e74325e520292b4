import { describe, expect, it } from 'vitest';
import type { Component } from '../raster/components';
import { findPieces } from './pieces';
import { findPlaces } from './places';

const LETTER = 24;
const SIZE = [1400, 2000] as const;
const DOTS_PER_INCH = 170;

/** One letter as a group of ink. */
const letter = (x: number, y: number, width = 16, height = LETTER): Component => ({
	x0: x,
	y0: y,
	x1: x + width,
	y1: y + height,
	area: (width * height) / 3
});
/** So many letters side by side. */
const word = (x: number, y: number, letters: number) =>
	Array.from({ length: letters }, (_, i) => letter(x + 20 * i, y));
const boxes = (list: readonly Component[]) => findPieces(list, SIZE, LETTER, DOTS_PER_INCH);

describe('pieces of writing', () => {
	it('join letters that stand side by side, and not those of the next line', () => {
		const found = boxes([...word(200, 400, 5), ...word(200, 440, 5)]);
		expect(found.map((p) => p.box)).toEqual([
			[200, 400, 296, 424],
			[200, 440, 296, 464]
		]);
	});

	it('begin a line only where nothing stands close before', () => {
		const found = boxes([...word(60, 400, 2), ...word(200, 400, 4), ...word(300, 400, 3)]);
		expect(found.map((p) => [p.box[0], p.leads])).toEqual([
			[60, true],
			[200, true],
			[300, false]
		]);
		expect(found[0]!.after).toBe(200 - 96);
		expect(found[2]!.after).toBe(Infinity);
	});

	it('take a dot along with what it belongs to, and join nothing by it', () => {
		const dot = letter(240, 418, 5, 5);
		const found = boxes([...word(200, 400, 2), dot, ...word(262, 400, 3)]);
		expect(found.map((p) => p.box)).toEqual([
			[200, 400, 245, 424],
			[262, 400, 318, 424]
		]);
	});

	it('leave out drawings, and what lies at the very edge of the picture', () => {
		const drawing = letter(300, 600, 200, 300);
		const desk = letter(0, 700, 30, 40);
		const rim = letter(14, 800);
		expect(boxes([drawing, desk, rim]).map((p) => p.box)).toEqual([[14, 800, 30, 824]]);
	});

	it('leave out what the edge of the sheet cuts off of squares, and no label that stands close to it', () => {
		const stubs = [letter(1384, 900, 10, 20), letter(700, 4, 60, 14), letter(6, 1100, 14, 12)];
		const number = letter(1362, 1000, 14);
		const label = letter(8, 1200, 18);
		expect(boxes([...stubs, number, label]).map((p) => p.box)).toEqual([
			[8, 1200, 26, 1224],
			[1362, 1000, 1376, 1024]
		]);
	});
});

describe('places to look at', () => {
	const placesOf = (list: readonly Component[], lines: readonly [number, number, number, number][] = []) =>
		findPlaces(
			boxes(list),
			lines.map((box) => ({ box })),
			[],
			SIZE[1],
			LETTER
		);

	it('are where lines begin, not the words behind', () => {
		const found = placesOf([...word(60, 400, 2), ...word(200, 400, 6), ...word(330, 400, 6)]);
		expect(found.map((p) => p.box[0])).toEqual([60, 200]);
	});

	it('lie where what is crossed out before them begins, and are shown without it', () => {
		const [anew] = boxes(word(200, 400, 3));
		const from = 110;
		const line = { box: [196, 392, 700, 434] as const, from };
		const [place, ...more] = findPlaces([{ ...anew!, from }], [line], [], SIZE[1], LETTER);
		expect(more).toEqual([]);
		expect(place!.box[0]).toBe(from);
		expect(place!.crops.length).toBeGreaterThan(1);
		for (const { box } of place!.crops) expect(box[0]).toBeGreaterThan(180);
	});

	it('see a line that the detector found and its first word as one place, cut in two ways', () => {
		const [place, ...more] = placesOf([...word(200, 400, 3), ...word(286, 400, 6)], [[196, 392, 700, 434]]);
		expect(more).toEqual([]);
		expect(place!.kind).toBe('line');
		expect(place!.crops).toHaveLength(2);
		expect(place!.crops[1]!.box[2]).toBeLessThan(286);
		expect(place!.after).toBe(286 - 256);
	});

	it('show more than the detector saw where it saw the first of a label’s parts only', () => {
		const label = [letter(60, 400), letter(82, 400), ...word(120, 400, 2)];
		const [place] = placesOf([...label, ...word(260, 400, 6)], [[56, 392, 104, 434]]);
		expect(place!.kind).toBe('line');
		expect(place!.crops[0]!.box[2]).toBeGreaterThan(156);
		expect(place!.crops[0]!.box[2]).toBeLessThan(260);
		// Behind a wide gap begins something else.
		const [apart] = placesOf([letter(60, 400), ...word(200, 400, 6)], [[56, 392, 82, 434]]);
		expect(apart!.crops[0]!.box[2]).toBeLessThan(100);
	});

	it('are everywhere in the header, words of a name also together', () => {
		const found = placesOf([...word(500, 60, 4), ...word(610, 60, 8)]);
		expect(found.map((p) => [p.box[0], p.box[2]])).toEqual([
			[500, 576],
			[610, 766],
			[500, 766]
		]);
	});
	it('take a page’s number and the dashes on both sides of it together, as high or low as they stand', () => {
		const dash = (x: number, y: number) => letter(x, y, 16, 4);
		for (const y of [1908, 1911, 1914]) {
			const found = placesOf([dash(700, y), letter(740, 1900), dash(780, y)]);
			expect(found.map((p) => [p.box[0], p.box[2]])).toContainEqual([700, 796]);
		}
	});
});
