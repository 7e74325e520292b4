import { describe, expect, it } from 'vitest';
import { aboutMore, Pace } from './pace';

describe('a pace', () => {
	it('tells how long the rest takes, once two are done and where that is worth saying', () => {
		const pace = new Pace();
		expect(pace.told(12, 0)).toBeNull();
		expect(pace.told(11, 3_000)).toBeNull();
		expect(pace.told(10, 6_000)).toBe(30_000);
		expect(pace.told(4, 16_000)).toBe(8_000);
		expect(pace.told(0, 24_000)).toBeNull();
	});

	it('says nothing of what is done in a moment, and begins anew where there is more to do', () => {
		const pace = new Pace();
		pace.told(4, 0);
		expect(pace.told(2, 1_000)).toBeNull();
		// Others are brought in: what went before says nothing of when.
		expect(pace.told(40, 2_000)).toBeNull();
		expect(pace.told(38, 4_000)).toBe(38_000);
	});

	it('is said as exactly as it is known', () => {
		expect([1_000, 12_400, 88_000, 95_000, 600_000].map(aboutMore)).toEqual([
			'about 5 s more',
			'about 10 s more',
			'about 90 s more',
			'about 2 min more',
			'about 10 min more'
		]);
	});
});
