import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { byName } from '../order/byName';
import { nameFromPattern, nameProblems, patternProblem, safeName } from './namePattern';

const ilka = { family: 'Brandsma', given: 'Ilka', course: 'HY-2', title: 'Gauging the Lode' };

describe('names', () => {
	it('fills a pattern', () => {
		expect(nameFromPattern('{family}_{given}_{course}_W3', ilka)).toBe('Brandsma_Ilka_HY-2_W3');
		expect(nameFromPattern('{title}', ilka)).toBe('Gauging-the-Lode');
	});

	it('makes anything at all safe for every file system', () => {
		fc.assert(
			fc.property(fc.string({ unit: 'grapheme', maxLength: 300 }), (name) => {
				const safe = safeName(name);
				expect(nameProblems(safe)).toEqual([]);
				expect(safeName(safe)).toBe(safe);
			})
		);
		expect(safeName('../../etc/passwd')).not.toMatch(/[/\\]/);
		expect(safeName('CON')).toBe('file-CON');
		expect(safeName('<b>"x"</b>')).not.toMatch(/[<>"]/);
	});

	it('says why another system would refuse a name', () => {
		expect(nameProblems('a/b')[0]).toContain('/');
		expect(nameProblems('trailing.')[0]).toContain('dot');
		expect(nameProblems('aux.pdf')[0]).toContain('Windows');
		expect(nameProblems('é'.repeat(80))[0]).toContain('120');
		expect(nameProblems('  ')).toEqual(['the name is empty']);
		expect(nameProblems('Brandsma_Ilka')).toEqual([]);
	});

	it('says what is wrong with a pattern', () => {
		expect(patternProblem('{family}_{given}')).toBeNull();
		expect(patternProblem('{surname}')).toContain('{surname}');
		expect(patternProblem('{family')).toContain('brace');
		expect(patternProblem(' ')).toContain('empty');
	});

	it('sorts file names as people number them', () => {
		expect(['scan 10.jpg', 'Scan 2.jpg', 'scan 1.jpg'].sort(byName)).toEqual([
			'scan 1.jpg',
			'Scan 2.jpg',
			'scan 10.jpg'
		]);
	});
});
