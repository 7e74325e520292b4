import fc from 'fast-check';
import { expect, it } from 'vitest';
import { around } from './around';

it('is what lies within reach of something, across and down, and no farther than the picture', () => {
	fc.assert(
		fc.property(
			fc.integer({ min: 1, max: 12 }),
			fc.integer({ min: 1, max: 9 }),
			fc.integer({ min: 0, max: 4 }),
			fc.array(fc.nat(107), { maxLength: 6 }),
			(width, height, reach, marks) => {
				const mask = new Uint8Array(width * height);
				for (const mark of marks) if (mark < mask.length) mask[mark] = 1;
				const before = mask.slice();
				const expected = mask.map((_, i) => {
					const near = marks.some(
						(m) =>
							m < mask.length &&
							Math.abs((m % width) - (i % width)) <= reach &&
							Math.abs(Math.floor(m / width) - Math.floor(i / width)) <= reach
					);
					return Number(near);
				});
				expect([...around(mask, width, height, reach)]).toEqual([...expected]);
				expect(mask).toEqual(before);
			}
		)
	);
});
