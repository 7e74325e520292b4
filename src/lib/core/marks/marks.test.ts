import { describe, expect, it } from 'vitest';
import { blankPicture } from '../raster/picture';
import type { Quadrilateral } from '../sheet/geometry';
import { wholePicture } from '../sheet/geometry';
import { estimateIllumination } from '../tone/illumination';
import { changeSchema } from '../packet/changeSchema';
import { apply } from '../packet/change';
import { EMPTY_PACKET, type Packet, type Page } from '../packet/packet';
import { overLimits } from '../packet/limits';
import { differences } from '../packet/difference';
import { describeChange } from '../packet/describeChange';
import { layStrips } from './layStrips';
import { MARK_LIMITS, stripsOf, type Mark } from './mark';
import {
	boundsOf,
	drawnOn,
	movedBy,
	resizedBy,
	stripOver,
	simplified,
	toPage,
	toPicture,
	type PageShape
} from './onPage';

const SHAPE: PageShape = {
	corners: [
		[100, 80],
		[1100, 120],
		[1080, 1500],
		[90, 1480]
	],
	turn: 90,
	width: 1654,
	height: 2339,
	dotsPerInch: 200
};
const PEN: Mark = {
	id: 'pen',
	kind: 'pen',
	colour: 'red',
	width: 1,
	points: [
		[200, 300, 0.5],
		[300, 320, 0.6],
		[400, 300, 0.5]
	]
};
const WORDS: Mark = { id: 'w', kind: 'words', colour: 'ink', size: 7, at: [500, 600], text: 'See\nthe back' };
const STRIP: Mark = {
	id: 's',
	kind: 'strip',
	corners: [
		[200, 200],
		[400, 200],
		[400, 260],
		[200, 260]
	]
};
const page: Page = { id: 'p', source: 's', sourcePage: 0, corners: null, turn: null, tone: null };
const packet: Packet = { ...EMPTY_PACKET, pages: { p: page }, strip: ['p'] };
const put = (mark: Mark, at?: number) =>
	({ kind: 'setMark', page: 'p', mark, ...(at === undefined ? {} : { at }) }) as const;

describe('what is added to a page', () => {
	it('lies on the picture: on the page it is where the picture is, whatever the turn', () => {
		const there = toPage(SHAPE)([100, 80]);
		// Turned by a quarter, the picture's upper left is the page's upper right.
		expect(there[0]).toBeCloseTo(SHAPE.width, 3);
		expect(there[1]).toBeCloseTo(0, 3);
		const back = toPicture(SHAPE)(toPage(SHAPE)([512, 700]));
		expect(back[0]).toBeCloseTo(512, 3);
		expect(back[1]).toBeCloseTo(700, 3);
	});

	it('stays on its picture where a bent page was made level', () => {
		const bend = { shift: [0, 0.02, 0, 0], spread: [0.01, 0.03, 0, 0], reach: [1, 1.02] } as const;
		const bent: PageShape = { ...SHAPE, bend };
		const flat = toPage(SHAPE);
		for (const place of [
			[512, 700],
			[300, 1100],
			[700, 200]
		] as const) {
			const there = toPage(bent)(place);
			const back = toPicture(bent)(there);
			expect(back[0]).toBeCloseTo(place[0], 3);
			expect(back[1]).toBeCloseTo(place[1], 3);
			// And it is elsewhere on the page than it would be on a flat one.
			expect(Math.hypot(there[0] - flat(place)[0], there[1] - flat(place)[1])).toBeGreaterThan(2);
		}
		// A strip over a box of the level page covers that box again.
		const strip = stripOver(bent, 's', { x: 200, y: 300, width: 150, height: 40 });
		const corners = strip.corners.map(toPage(bent));
		expect(corners[0]![0]).toBeCloseTo(200, 0);
		expect(corners[2]![1]).toBeCloseTo(340, 0);
	});

	it('is as broad and as large on paper as asked', () => {
		const straight = { ...SHAPE, corners: wholePicture(1654, 2339), turn: 0 as const };
		const [stroke, words] = drawnOn(straight, [PEN, WORDS]);
		const [, top, , bottom] = boundsOf(stroke!);
		// 20 pixels of the stroke's bend, and about a millimetre of pen.
		expect(bottom - top).toBeGreaterThan(20);
		expect(bottom - top).toBeLessThan(20 + 2 * (200 / 25.4));
		expect(words).toMatchObject({ kind: 'words', lines: ['See', 'the back'] });
		expect((words as { x: number }).x).toBeCloseTo(500, 6);
		expect((words as { pitch: number }).pitch).toBeCloseTo((7 * 200) / 25.4, 6);
	});

	it('is moved and made larger on the page, not on the picture', () => {
		const map = toPage(SHAPE);
		const before = map(WORDS.at);
		const moved = map(movedBy(WORDS, SHAPE, 30, -12).at);
		expect(moved[0] - before[0]).toBeCloseTo(30, 0);
		expect(moved[1] - before[1]).toBeCloseTo(-12, 0);
		const larger = resizedBy(STRIP, SHAPE, 40, 25);
		const box = (m: typeof STRIP) => {
			const at = m.corners.map(map);
			return [Math.abs(at[2]![0] - at[0]![0]), Math.abs(at[2]![1] - at[0]![1])] as const;
		};
		expect(box(larger)[0] - box(STRIP)[0]).toBeCloseTo(40, 0);
		expect(box(larger)[1] - box(STRIP)[1]).toBeCloseTo(25, 0);
		// A strip never turns inside out.
		expect(resizedBy(STRIP, SHAPE, -5000, -5000)).toEqual(STRIP);
		expect(resizedBy(WORDS, SHAPE, -5000, 0).size).toBe(2);
	});

	it('keeps of a stroke what tells its shape', () => {
		const line = Array.from({ length: 50 }, (_, i) => [i, 0.05 * (i % 2), 0.5] as const);
		expect(simplified(line, 0.3)).toEqual([line[0], line[49]]);
		const bent = [...line, [49, 40, 0.5] as const];
		expect(simplified(bent, 0.3)).toHaveLength(3);
	});

	it('is added, changed and taken off by changes that are taken back exactly', () => {
		let now = packet;
		const backs = [];
		for (const change of [
			put(PEN),
			put(STRIP),
			put(WORDS, 0),
			put({ ...PEN, colour: 'green' }),
			{ kind: 'removeMark', page: 'p', mark: 's' } as const,
			{ kind: 'setNotesApart', apart: true } as const
		]) {
			expect(changeSchema.validate(change).error).toBeUndefined();
			expect(describeChange(change)).not.toBe('');
			const { packet: next, inverse } = apply(now, change);
			backs.unshift({ inverse, is: now });
			now = next;
		}
		expect(now.pages.p!.marks!.map((m) => m.id)).toEqual(['w', 'pen']);
		expect(now.notesApart).toBe(true);
		expect(differences(packet, now)).toEqual(['page 1: written on']);
		for (const { inverse, is } of backs) {
			now = apply(now, inverse).packet;
			expect(now).toEqual(is);
		}
		expect(() => apply(packet, { kind: 'removeMark', page: 'p', mark: 's' })).toThrow('not on the page');
	});

	it('stays through another outline and turn, and goes with its picture, to come back with it', () => {
		const written = apply(apply(packet, put(PEN)).packet, put(STRIP)).packet;
		const turned = apply(written, { kind: 'setTurn', page: 'p', turn: 90 }).packet;
		expect(turned.pages.p!.marks).toEqual([PEN, STRIP]);
		const picture = { source: 'other', sourcePage: 0, corners: null, turn: null };
		const { packet: again, inverse } = apply(written, { kind: 'setPicture', page: 'p', picture });
		expect(again.pages.p!.marks).toBeUndefined();
		expect(apply(again, inverse).packet).toEqual(written);
		const halved = apply(written, { kind: 'split', page: 'p', first: 0, second: 'q' }).packet;
		expect(halved.pages.p!.marks).toEqual([PEN, STRIP]);
	});

	it('is refused when it is too much or of no known kind', () => {
		const points = Array.from({ length: MARK_LIMITS.points + 1 }, (_, i) => [i, 0, 0.5] as const);
		for (const wrong of [
			{ ...PEN, points },
			{ ...PEN, colour: 'puce' },
			{ ...PEN, width: 50 },
			{ ...WORDS, text: '' },
			{ ...STRIP, corners: STRIP.corners.slice(1) },
			{ ...STRIP, kind: 'blot' }
		]) {
			expect(changeSchema.validate(put(wrong as Mark)).error).toBeDefined();
		}
		const marks = Array.from({ length: MARK_LIMITS.marks + 1 }, (_, i) => ({ ...PEN, id: `${i}` }));
		expect(overLimits({ ...packet, pages: { p: { ...page, marks } } })).toMatch('added to one page');
	});
});

describe('a strip of paper', () => {
	it('leaves nothing of what was under it, and bare paper in the same light in its place', () => {
		const [width, height] = [400, 560];
		const sheet = blankPicture(width, height, [255, 255, 255]);
		for (let y = 0; y < height; y++) {
			for (let x = 0; x < width; x++) {
				// Darker to the right, with ink in rows.
				const light = 240 - (90 * x) / width;
				const value = y % 24 < 4 && x % 11 < 3 ? 30 : light;
				sheet.data.fill(value, 3 * (y * width + x), 3 * (y * width + x) + 3);
			}
		}
		const light = estimateIllumination(sheet);
		const corners: Quadrilateral = wholePicture(width, height);
		const strips = stripsOf([
			{ ...STRIP, corners: [[50, 100], [300, 110], [300, 200], [50, 190]] } // prettier-ignore
		]);
		const before = Uint8Array.from(sheet.data);
		layStrips(sheet, light, { corners, turn: 0, width, height }, strips);
		let darkest = 255;
		for (let y = 112; y < 188; y++) {
			for (let x = 52; x < 298; x++) {
				const value = sheet.data[3 * (y * width + x)]!;
				darkest = Math.min(darkest, value - (240 - (90 * x) / width));
			}
		}
		expect(darkest).toBeGreaterThan(-12);
		// And nothing else is touched.
		for (const [x, y] of [
			[20, 150],
			[310, 150],
			[200, 90],
			[200, 215]
		] as const) {
			expect(sheet.data[3 * (y * width + x)]).toBe(before[3 * (y * width + x)]);
		}
	});
});
