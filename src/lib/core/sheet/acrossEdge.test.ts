import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blankPicture } from '../raster/picture';
import { acrossEdge } from './acrossEdge';
import { edgeMap } from './edgeMap';
import { robustLine } from './robustLine';
import { sheetOnTop } from './sheetOnTop';
import type { Quadrilateral } from './geometry';

const WIDTH = 400;
const HEIGHT = 500;

/** A picture whose grey depends on the column and the row. */
function picture(greyAt: (x: number, y: number) => number) {
	const made = blankPicture(WIDTH, HEIGHT);
	for (let y = 0, p = 0; y < HEIGHT; y++) {
		for (let x = 0; x < WIDTH; x++, p += 3) made.data.fill(greyAt(x, y), p, p + 3);
	}
	return made;
}

describe('a robust line', () => {
	it('goes through what most points agree on, whatever a third of them say', () => {
		fc.assert(
			fc.property(
				fc.double({ min: -8, max: 8, noNaN: true }),
				fc.double({ min: -6, max: 6, noNaN: true }),
				fc.array(fc.double({ min: -30, max: 30, noNaN: true }), { minLength: 20, maxLength: 20 }),
				(start, slope, stray) => {
					const t = Array.from({ length: 60 }, (_, i) => i / 59);
					const o = t.map((at, i) => (i % 3 === 1 ? stray[(i - 1) / 3]! : start + slope * at));
					const found = robustLine(
						t,
						o,
						t.map(() => 1)
					)!;
					expect(found.start).toBeCloseTo(start, 0);
					expect(found.start + found.slope).toBeCloseTo(start + slope, 0);
				}
			)
		);
	});

	it('says so when there is none', () => {
		expect(robustLine([], [], [])).toBeNull();
	});
});

describe('across an edge', () => {
	it('finds where it rises, and how dark its shadow is on the way there', () => {
		// Dark up to column 200, as a shadow that grows over ten columns; paper beyond.
		const shaded = picture((x) => (x < 200 ? 220 - 6 * Math.max(0, 10 - (200 - x)) : 220));
		const seen = acrossEdge(
			shaded,
			[
				[196, 460],
				[203, 40]
			],
			1
		)!;
		expect(seen.straight).toBeGreaterThan(0.95);
		for (const [x] of seen.segment) expect(Math.abs(x - 200)).toBeLessThan(1.5);
		const at = (k: number) => seen.profile[seen.far + k]!;
		expect(at(-12)).toBeCloseTo(1, 2);
		expect(at(6)).toBeCloseTo(1, 2);
		expect(at(-3)).toBeLessThan(at(-6));
		expect(at(-6)).toBeLessThan(0.95);
	});

	it('sees nothing of a line that runs along the rim', () => {
		const empty = picture(() => 200);
		expect(
			acrossEdge(
				empty,
				[
					[2, 490],
					[2, 10]
				],
				1
			)
		).toBeNull();
	});
});

describe('a sheet on top', () => {
	const DESK = 60;
	const PAPER = 225;
	/** Paper on a desk from column 60 to 340 and row 50 to 450, with something along column 80. */
	const outline: Quadrilateral = [
		[60, 50],
		[340, 50],
		[340, 450],
		[60, 450]
	];
	const withLeft = (greyAt: (beyond: number) => number) =>
		picture((x, y) => (x < 60 || x >= 340 || y < 50 || y >= 450 ? DESK : greyAt(x - 80)));
	const leftOf = (greyAt: (beyond: number) => number) => {
		const made = withLeft(greyAt);
		const moved = sheetOnTop(made, edgeMap(made), outline, 1);
		return (moved[0][0] + moved[3][0]) / 2;
	};

	it('is known by a shadow on the sheet under it', () => {
		for (const reach of [8, 12]) {
			const left = leftOf((x) => (x < 0 && x >= -reach ? PAPER * (0.75 + (0.25 * -x) / reach) : PAPER));
			expect(Math.abs(left - 80)).toBeLessThan(1);
		}
	});

	it('is no drawn line, thin or thick, no coloured band and no bar', () => {
		for (const width of [1, 2, 3]) {
			expect(leftOf((x) => (x >= 0 && x < width ? 0.7 * PAPER : PAPER))).toBe(60);
		}
		expect(leftOf((x) => (x < 0 ? 0.85 * PAPER : PAPER))).toBe(60);
		expect(leftOf((x) => (x < 0 && x >= -9 ? 40 : PAPER))).toBe(60);
	});

	it('is the uppermost one of three', () => {
		const shade = (x: number, at: number) => (x < at && x >= at - 8 ? 0.75 + (0.25 * (at - x)) / 8 : 1);
		const left = leftOf((x) => PAPER * shade(x, -6) * shade(x, 12));
		expect(Math.abs(left - 92)).toBeLessThan(1);
	});
});
