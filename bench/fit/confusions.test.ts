import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CONFUSIONS } from '../../src/lib/core/reading/confusions';
import { SHORT_ALPHABET } from '../../src/lib/core/reading/shortAlphabet';
import { errorRate } from '../errorRate';
import { alignLetters } from './confusions';

const words = fc.string({ unit: fc.constantFrom(...'ab3q'), maxLength: 9 });

describe('letters beside each other', () => {
	it.each([
		[
			'q3b',
			'q3b',
			[
				['q', 'q'],
				['3', '3'],
				['b', 'b']
			]
		],
		[
			'q3b',
			'g3b',
			[
				['q', 'g'],
				['3', '3'],
				['b', 'b']
			]
		],
		[
			'q3b',
			'qb',
			[
				['q', 'q'],
				['3', null],
				['b', 'b']
			]
		],
		[
			'q3',
			'q.3',
			[
				['q', 'q'],
				[null, '.'],
				['3', '3']
			]
		],
		['', '1', [[null, '1']]],
		['1', '', [['1', null]]],
		['', '', []]
	] as const)('are those of "%s" read as "%s"', (written, read, pairs) => {
		expect(alignLetters(written, read)).toEqual(pairs);
	});

	it('are all of both, in their sequence, with as few that differ as may be', () => {
		fc.assert(
			fc.property(words, words, (written, read) => {
				const pairs = alignLetters(written, read);
				expect(pairs.map(([w]) => w ?? '').join('')).toBe(written);
				expect(pairs.map(([, r]) => r ?? '').join('')).toBe(read);
				const differ = pairs.filter(([w, r]) => w !== r).length;
				if (written.length > 0 && differ <= written.length) {
					expect(differ / written.length).toBeCloseTo(errorRate(written, read), 9);
				}
			})
		);
	});
});

describe('what letters are taken for', () => {
	const all = Object.entries(CONFUSIONS).flatMap(([written, others]) =>
		others.map(([read, weight]) => ({ written, read, weight }))
	);

	it('is never themselves, nor what the recogniser does not know, and counts for less than they do', () => {
		expect(all.length).toBeGreaterThan(20);
		for (const { written, read, weight } of all) {
			expect(read).not.toBe(written);
			expect(SHORT_ALPHABET).toContain(written);
			expect(SHORT_ALPHABET).toContain(read);
			expect(weight).toBeGreaterThan(0);
			expect(weight).toBeLessThan(0.5);
		}
	});

	it('is another one each time', () => {
		expect(new Set(all.map(({ written, read }) => written + read)).size).toBe(all.length);
	});
});
