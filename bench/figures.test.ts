import fc from 'fast-check';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { errorRate } from './errorRate';
import { kept } from './kept';
import { rankCorrelation } from './rankCorrelation';
import { reliability } from './reliability';
import { Tally } from './tally';

describe('the share of letters misread', () => {
	it('counts what is left out, put in and taken for another', () => {
		expect(errorRate('gauge', 'gauge')).toBe(0);
		expect(errorRate('gauge', 'guge')).toBeCloseTo(1 / 5);
		expect(errorRate('gauge', 'gaouge')).toBeCloseTo(1 / 5);
		expect(errorRate('gauge', 'gouge')).toBeCloseTo(1 / 5);
		expect(errorRate('gauge', 'auge r')).toBeCloseTo(2 / 5);
	});

	it('does not mind spaces and capitals, and is never more than 1', () => {
		expect(errorRate('The Lode', 'thelode')).toBe(0);
		expect(errorRate('ab', 'xxxxxxxx')).toBe(1);
		expect(errorRate('', '')).toBe(0);
		expect(errorRate('', 'a')).toBe(1);
	});

	it('is the same from either side, of texts of one length', () => {
		const word = fc.string({ minLength: 6, maxLength: 6, unit: fc.constantFrom('a', 'b', 'c') });
		fc.assert(
			fc.property(word, word, (a, b) => {
				expect(errorRate(a, b)).toBe(errorRate(b, a));
			})
		);
	});
});

describe('rank correlation', () => {
	it('is 1 for what rises together, -1 for what falls, whatever the steps', () => {
		expect(rankCorrelation([1, 2, 5, 9], [0.1, 7, 8, 1000])).toBeCloseTo(1);
		expect(rankCorrelation([1, 2, 5, 9], [4, 3, 2, -1])).toBeCloseTo(-1);
	});

	it('gives equal values their mean rank', () => {
		// By hand: ranks 0, 1.5, 1.5, 3 and 0, 1, 2, 3.
		expect(rankCorrelation([1, 4, 4, 9], [1, 2, 3, 4])).toBeCloseTo(4.5 / Math.sqrt(4.5 * 5));
	});

	it('does not hang on the order in which pairs are given', () => {
		fc.assert(
			fc.property(fc.uniqueArray(fc.tuple(fc.nat(50), fc.nat(50)), { minLength: 3 }), (pairs) => {
				const of = (some: typeof pairs) =>
					rankCorrelation(
						some.map(([a]) => a),
						some.map(([, b]) => b)
					);
				const [one, other] = [of(pairs), of([...pairs].reverse())];
				if (Number.isNaN(one)) expect(other).toBeNaN();
				else expect(other).toBeCloseTo(one, 9);
			})
		);
	});
});

describe('how often answers are right', () => {
	it('is told by their confidence; what is on a bound belongs above it', () => {
		const lines = reliability([
			{ confidence: 0, right: false },
			{ confidence: 0.49, right: true },
			{ confidence: 0.5, right: true },
			{ confidence: 0.9, right: false },
			{ confidence: 1, right: true }
		]);
		expect(lines).toEqual([
			'confidence 0.0 to 0.5: right 1 of 2',
			'confidence 0.5 to 0.9: right 1 of 1',
			'confidence 0.9 to 1.0: right 1 of 2'
		]);
	});
});

describe('a tally', () => {
	it('counts what is right, and has no share of nothing', () => {
		const tally = new Tally();
		expect(String(tally)).toBe('0 of 0');
		for (const right of [true, false, true, true]) tally.count(right);
		expect(String(tally)).toBe('3 of 4 (75.0 %)');
	});
});

describe('what takes long to make', () => {
	it('is made once for each thing that it is made from, and comes back as it was', async () => {
		const name = basename(mkdtempSync(join(tmpdir(), 'membrana-kept-')));
		const made: string[] = [];
		const make = (from: unknown) =>
			kept(name, from, async (path) => {
				made.push(path);
				return { from, bytes: new Uint8Array([1, 2, 3]), missing: undefined };
			});
		const first = await make({ seed: 1 });
		expect(await make({ seed: 1 })).toEqual(first);
		expect(first.bytes).toBeInstanceOf(Uint8Array);
		await make({ seed: 2 });
		expect(made).toHaveLength(2);
		expect(new Set(made).size).toBe(2);
	});
});
