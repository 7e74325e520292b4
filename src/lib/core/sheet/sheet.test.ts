import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { runningOut } from '../../../../bench/drawnPictures';
import { overlapWithin } from '../../../../bench/overlapWithin';
import { situationSpec, specimenPage } from '../../../../bench/situations';
import { photograph } from '../../../../demo/generator/photograph';
import { printedPage } from '../../../../demo/generator/printedPage';
import { testPage, testPhotograph } from '../../../../tests/support/pictures';
import { turnCorners } from './turn';
import { guessTurnOf } from '../page/preparePage';
import { blankPicture } from '../raster/picture';
import { flatten } from './flatten';
import {
	isConvex,
	orderCorners,
	overlap,
	signedArea,
	wholePicture,
	type Point,
	type Quadrilateral
} from './geometry';
import { homography, project } from './homography';
import { findOutline } from './outline';
import { paperSize } from './paperSize';
import { proportions } from './proportions';

const square: Quadrilateral = [
	[0, 0],
	[10, 0],
	[10, 10],
	[0, 10]
];
/** Any convex quadrilateral around (500, 500). */
const quadrilateral = fc
	.tuple(
		...[0, 1, 2, 3].map(() =>
			fc.tuple(fc.double({ min: 0.5, max: 1, noNaN: true }), fc.double({ min: -0.3, max: 0.3, noNaN: true }))
		)
	)
	.map(
		(arms) =>
			arms.map(([reach, turn], i): Point => {
				const angle = (-3 + 2 * i) * (Math.PI / 4) + turn!;
				return [500 + 400 * reach! * Math.cos(angle), 500 + 400 * reach! * Math.sin(angle)];
			}) as unknown as Quadrilateral
	)
	.filter((q) => isConvex(q));

describe('geometry', () => {
	it('overlap of a square with itself, with its half and with nothing', () => {
		const half: Quadrilateral = [
			[0, 0],
			[5, 0],
			[5, 10],
			[0, 10]
		];
		const away = square.map(([x, y]): Point => [x + 50, y]);
		expect(overlap(square, square)).toBeCloseTo(1);
		expect(overlap(square, half)).toBeCloseTo(0.5);
		expect(overlap(square, away)).toBe(0);
	});

	it('orders corners clockwise from the top left whatever order they come in', () => {
		fc.assert(
			fc.property(quadrilateral, fc.shuffledSubarray([0, 1, 2, 3], { minLength: 4 }), (q, order) => {
				const ordered = orderCorners(order.map((i) => q[i]!));
				expect(signedArea(ordered)).toBeGreaterThan(0);
				const nearest = Math.min(...q.map((c) => Math.hypot(...c)));
				expect(Math.hypot(...ordered[0])).toBeCloseTo(nearest);
			})
		);
	});

	it('a dented or crossed outline is not convex', () => {
		expect(isConvex(square)).toBe(true);
		expect(isConvex([square[0], square[2], square[1], square[3]])).toBe(false);
		expect(isConvex([square[0], square[1], [3, 3], square[3]])).toBe(false);
	});
});

describe('homography', () => {
	it('takes corners to corners and back', () => {
		fc.assert(
			fc.property(quadrilateral, quadrilateral, (from, to) => {
				const there = homography(from, to);
				const back = homography(to, from);
				from.forEach((corner, i) => {
					const p = project(there, corner);
					expect(Math.hypot(p[0] - to[i]![0], p[1] - to[i]![1])).toBeLessThan(1e-4);
				});
				const middle: Point = [500, 500];
				const again = project(back, project(there, middle));
				expect(Math.hypot(again[0] - 500, again[1] - 500)).toBeLessThan(1e-3);
			})
		);
	});

	it('says so when three corners are in one line', () => {
		expect(() =>
			homography(
				[
					[0, 0],
					[5, 0],
					[10, 0],
					[0, 10]
				],
				square
			)
		).toThrow(RangeError);
	});
});

describe('proportions and paper', () => {
	it('recovers A4 from pictures taken at a slant', () => {
		const page = testPage(4);
		for (const [seed, tilt] of [
			[1, 5],
			[2, 15],
			[3, 25]
		] as const) {
			const { corners } = testPhotograph(page, { seed, tilt, slant: 4, fill: 0.75 });
			const ratio = proportions(corners, [1200, 1600]);
			expect(Math.abs(ratio / (210 / 297) - 1)).toBeLessThan(0.03);
			expect(paperSize(ratio)).toBe('A4');
		}
	});

	it('snaps only within 3 %, and lets the rule sheet tell A5 from A4', () => {
		expect(paperSize(0.707)).toBe('A4');
		expect(paperSize(0.707, 'A5')).toBe('A5');
		expect(paperSize(1 / 0.707)).toBe('A4');
		expect(paperSize(0.773)).toBe('Letter');
		expect(paperSize(0.65)).toBeNull();
		expect(paperSize(0.9, 'A4')).toBeNull();
	});
});

describe('flatten', () => {
	it('puts what lies in each corner into the same corner, turned as asked', () => {
		const picture = blankPicture(100, 100, [128, 128, 128]);
		const colours = [
			[250, 0, 0],
			[0, 250, 0],
			[0, 0, 250],
			[250, 250, 0]
		];
		const spots = [
			[20, 20],
			[70, 20],
			[70, 70],
			[20, 70]
		] as const;
		spots.forEach(([x0, y0], k) => {
			for (let y = y0; y < y0 + 10; y++) {
				for (let x = x0; x < x0 + 10; x++) picture.data.set(colours[k]!, (y * 100 + x) * 3);
			}
		});
		const corners: Quadrilateral = [
			[20, 20],
			[80, 20],
			[80, 80],
			[20, 80]
		];
		const at = (data: Uint8Array, x: number, y: number) => [
			...data.slice((y * 60 + x) * 3, (y * 60 + x) * 3 + 3)
		];
		const upright = flatten(picture, corners, 60, 60);
		expect(at(upright.data, 3, 3)).toEqual(colours[0]);
		expect(at(upright.data, 56, 56)).toEqual(colours[2]);
		// A quarter clockwise brings the lower left corner to the upper left.
		const turned = flatten(picture, turnCorners(corners, 90), 60, 60);
		expect(at(turned.data, 3, 3)).toEqual(colours[3]);
		expect(at(turned.data, 56, 3)).toEqual(colours[0]);
	});

	it('is white where the outline leaves the picture', () => {
		const picture = blankPicture(50, 50, [10, 10, 10]);
		const out = flatten(
			picture,
			[
				[-25, 0],
				[25, 0],
				[25, 50],
				[-25, 50]
			],
			50,
			50
		);
		expect(out.data[25 * 150]).toBe(255);
		expect(out.data[25 * 150 + 140]).toBe(10);
	});
});

describe('findOutline', () => {
	const cases = [
		{ desk: 'wood', seed: 11 },
		{ desk: 'dark', seed: 12, tilt: 18 },
		{ desk: 'white', seed: 13 },
		{ desk: 'stone', seed: 14, lies: 90 },
		{ desk: 'cloth', seed: 15 },
		{ desk: 'wood', seed: 16, shadow: 0.9 },
		{ desk: 'wood', seed: 17, finger: true },
		{ desk: 'dark', seed: 18, fill: 0.5 }
	] as const;
	it.each(cases)('finds the sheet on $desk, seed $seed', (spec) => {
		const { picture, corners } = testPhotograph(testPage(spec.seed), spec);
		const found = findOutline(picture);
		expect(found.kind).toBe('sheet');
		expect(found.confidence).toBeGreaterThan(0.5);
		expect(overlap(found.corners, corners)).toBeGreaterThan(0.985);
		expect(found.cutOff).toEqual([]);
	});

	it('names the side on which the sheet runs out of the picture', () => {
		const { picture } = testPhotograph(testPage(2), {
			desk: 'dark',
			fill: 0.9,
			shift: [0, 0.14],
			slant: 1,
			tilt: 2
		});
		expect(findOutline(picture).cutOff).toEqual(['bottom']);
	});

	it.each(['top', 'right', 'bottom', 'left'] as const)(
		'names the cut-off side, wherever it is: %s',
		(side) => {
			const shift = { top: [0, -0.2], right: [0.22, 0], bottom: [0, 0.2], left: [-0.22, 0] } as const;
			for (const desk of ['wood', 'white', 'cloth'] as const) {
				const page = testPage(4, { ruling: 'ruled', scale: 5 });
				const spec = { desk, size: [600, 800], fill: 0.82, slant: 2, shift: shift[side] } as const;
				const found = findOutline(testPhotograph(page, spec).picture);
				expect([desk, found.kind, found.cutOff.includes(side)]).toEqual([desk, 'sheet', true]);
			}
		}
	);

	it('takes the sheet on top, not the one under it that shows a strip', () => {
		const overlaps = [21, 22, 23, 24, 25, 26].map((seed) => {
			const page = testPage(seed, { scale: 5 });
			const { picture, corners } = testPhotograph(page, {
				seed,
				size: [900, 1200],
				desk: 'white',
				fill: 0.75,
				underneath: true
			});
			return overlap(findOutline(picture).corners, corners);
		});
		expect(overlaps.reduce((a, b) => a + b) / overlaps.length).toBeGreaterThan(0.985);
	});

	it('does not take ruling for a sheet on top', () => {
		for (const ruling of ['ruled', 'squared'] as const) {
			for (const seed of [31, 32]) {
				const { picture, corners } = testPhotograph(testPage(seed, { ruling, scale: 5 }), {
					seed,
					size: [900, 1200]
				});
				expect(overlap(findOutline(picture).corners, corners)).toBeGreaterThan(0.99);
			}
		}
	});

	it('does not take a line of print near a side for the shadow of a sheet on top, however blurred', () => {
		for (const seed of [9500, 9503, 9520, 9529, 9534]) {
			const page = printedPage({ seed, kind: 'text', size: [900, 1270] });
			const spec = situationSpec(seed % 2 ? 'checked cloth' : 'plain wood', seed, [900, 1200]);
			const { picture, corners } = photograph(page, { ...spec, blur: 1.2 });
			expect(overlap(findOutline(picture).corners, corners)).toBeGreaterThan(0.98);
		}
	});

	it.each([38, 45, 52])('finds a sheet that stands on a corner, slanting by %i degrees', (slant) => {
		for (const [i, desk] of (['wood', 'dark', 'cloth', 'stone'] as const).entries()) {
			const { picture, corners } = testPhotograph(testPage(41 + i, { scale: 5 }), {
				desk,
				seed: 141 + i,
				size: [900, 1200],
				fill: 0.62,
				slant
			});
			const found = findOutline(picture);
			expect(found.confidence).toBeGreaterThan(0.5);
			expect(overlap(found.corners, corners)).toBeGreaterThan(0.985);
		}
	});

	it('says where the sheet may be where that is not sure, and keeps the whole picture', () => {
		// Corners lie outside of the picture.
		for (const seed of [760656, 760738, 762255]) {
			const { picture, right } = runningOut(seed);
			const found = findOutline(picture);
			expect(found.kind).toBe('whole');
			expect(found.confidence).toBeLessThan(0.5);
			expect(found.corners).toEqual(wholePicture(picture.width, picture.height));
			expect(overlapWithin([picture.width, picture.height], found.perhaps!, right[0]!)).toBeGreaterThan(0.97);
		}
	});

	it('says where four lines close that may be a sheet on a table of its own colour', () => {
		const corners: Quadrilateral = [
			[130, 120],
			[760, 150],
			[790, 1080],
			[100, 1060]
		];
		const picture = blankPicture(900, 1200);
		const data = Uint8Array.from(picture.data, (_, i) => {
			const x = Math.floor(i / 3) % 900;
			const y = Math.floor(i / 2700);
			// Clockwise: what lies to the left of any side is outside.
			const outside = Math.max(
				...corners.map(([ax, ay], k) => {
					const [bx, by] = corners[(k + 1) % 4]!;
					return ((bx - ax) * (ay - y) - (by - ay) * (ax - x)) / Math.hypot(bx - ax, by - ay);
				})
			);
			const shadow = outside > 0 ? 0.25 * Math.exp(-outside / 3) : 0;
			return 240 * (0.6 + (0.4 * x) / 900) * (1 - shadow);
		});
		const found = findOutline({ ...picture, data });
		expect(found.confidence).toBeLessThan(0.5);
		expect(found.kind).toBe('whole');
		expect(overlap(found.perhaps!, corners)).toBeGreaterThan(0.97);
	});

	it('does not take rough stone beside a sheet for the other page of a notebook', () => {
		const { picture, corners } = photograph(
			specimenPage(74129, 6).picture,
			situationSpec('stone', 74129, [1600, 1200])
		);
		expect(overlap(findOutline(picture).corners, corners)).toBeGreaterThan(0.99);
	});

	it('takes a scan as it is', () => {
		const { picture } = testPage(6, { ruling: 'ruled' });
		const found = findOutline(picture);
		expect(found.kind).toBe('whole');
		expect(found.confidence).toBeGreaterThanOrEqual(0.5);
		expect(found.corners[2]).toEqual([picture.width, picture.height]);
	});

	it('keeps the whole picture, unsure, when there is no sheet', () => {
		const { picture } = testPhotograph(testPage(1), { desk: 'wood' });
		const found = findOutline({ ...picture, data: new Uint8Array(picture.data.length).fill(70) });
		expect(found.kind).toBe('whole');
		expect(found.confidence).toBeLessThan(0.5);
	});
});

describe('guessTurnOf', () => {
	it.each([0, 90, 180, 270] as const)('knows a page that lies turned by %i degrees', (lies) => {
		const { picture, corners, turn } = testPhotograph(testPage(20 + lies / 90), { lies, slant: 2 });
		const guess = guessTurnOf(picture, corners);
		expect(guess.turn).toBe(turn);
		expect(guess.confidence).toBeGreaterThan(0.3);
	});

	it('does not claim to know it of a blank page', () => {
		const { picture, corners } = testPhotograph(
			testPage(1, { blocks: [], name: undefined, pageNumber: undefined })
		);
		expect(guessTurnOf(picture, corners).confidence).toBe(0);
	});
});
