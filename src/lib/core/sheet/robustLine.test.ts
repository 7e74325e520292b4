import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { robustLine } from './robustLine';

const T = Array.from({ length: 40 }, (_, i) => i);
const weights = (w = 1) => T.map(() => w);
const slopes = fc.double({ min: -1.5, max: 1.5, noNaN: true });
const starts = fc.double({ min: -30, max: 30, noNaN: true });

describe('a line through points of which some are far off', () => {
	it('is theirs, where all lie on one', () => {
		fc.assert(
			fc.property(slopes, starts, (slope, start) => {
				const line = robustLine(
					T,
					T.map((t) => start + slope * t),
					weights()
				);
				expect(line!.slope).toBeCloseTo(slope, 6);
				expect(line!.start).toBeCloseTo(start, 6);
			})
		);
	});

	it('is not pulled by a quarter of them, wherever those lie', () => {
		fc.assert(
			fc.property(
				slopes,
				starts,
				fc.double({ min: 8, max: 200, noNaN: true }),
				fc.boolean(),
				(slope, start, off, above) => {
					const o = T.map((t) => start + slope * t + (t % 4 === 1 ? (above ? off : -off) : 0));
					const line = robustLine(T, o, weights());
					expect(line!.slope).toBeCloseTo(slope, 3);
					expect(line!.start).toBeCloseTo(start, 2);
				}
			)
		);
	});

	it('is not set by a stretch of clutter that is a line by itself', () => {
		const o = T.map((t) => (t < 10 ? 60 - 3 * t : 5 + 0.5 * t));
		const line = robustLine(T, o, weights());
		expect(line!.slope).toBeCloseTo(0.5, 3);
	});

	it('goes by what weighs more, where there are two', () => {
		const o = T.map((t) => (t % 2 === 0 ? 0 : 40));
		const heavyBelow = robustLine(
			T,
			o,
			T.map((t) => (t % 2 === 0 ? 3 : 1))
		);
		const heavyAbove = robustLine(
			T,
			o,
			T.map((t) => (t % 2 === 0 ? 1 : 3))
		);
		expect(heavyBelow!.start).toBeCloseTo(0, 6);
		expect(heavyAbove!.start).toBeCloseTo(40, 6);
	});

	it('is none of too few points, and of points that weigh nothing', () => {
		expect(robustLine([], [], [])).toBeNull();
		expect(robustLine([1, 2], [1, 2], [1, 1])).toBeNull();
		expect(robustLine(T, T, weights(0))).toBeNull();
	});
});
