import { describe, expect, it } from 'vitest';
import { posterior, readLine, textLines } from '../../../../tests/support/reading';
import { labelCandidates } from './labelCandidates';
import { labelForms } from './labelForms';
import { behindNamingWord, bestPath } from './namingWord';

const textOf = (line: string) => {
	const behind = behindNamingWord(posterior(line));
	return (
		behind &&
		bestPath(behind)
			.map((l) => l.character)
			.join('')
	);
};

describe('behindNamingWord', () => {
	it('finds what a misread word names, with or without a space', () => {
		expect(textOf('exerrist 12 vert')).toBe('12 vert');
		expect(textOf('rxestise 14')).toBe('14');
		expect(textOf('droblem4 b')).toBe('4 b');
		expect(textOf('fask 2c)')).toBe('2c)');
	});

	it('leaves words that were read well, other words, and words with nothing behind', () => {
		expect(textOf('exercise 12')).toBeNull();
		expect(textOf('bottle 12')).toBeNull();
		expect(textOf('estimate 3')).toBeNull();
		expect(textOf('exerrist')).toBeNull();
	});
});

it('a label named by a misread word is a candidate, as a named one', () => {
	const body = textLines(
		500,
		Array.from({ length: 12 }, () => 'the lode runs slower near the reeds')
	);
	const lines = [readLine('Exerrist 12', [60, 400, 190, 450]), ...body];
	const [first] = labelCandidates(lines, [1400, 2000], labelForms(null));
	expect(first!.options[0]).toMatchObject({ question: '12', part: null, form: 'named' });
});
