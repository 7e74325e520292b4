import { describe, expect, it } from 'vitest';
import { posterior, readLine, textLines } from '../../../../tests/support/reading';
import { labelCandidates } from './labelCandidates';
import { labelForms } from './labelForms';
import { bestCharacters } from './linePosterior';
import { behindNamingWord, isWordBeforeNumber } from './namingWord';

const textOf = (line: string, sure = 0.995) => {
	const behind = behindNamingWord(posterior(line, sure));
	return (
		behind &&
		bestCharacters(behind.line)
			.map((l) => l.character)
			.join('')
	);
};

describe('behindNamingWord', () => {
	it('finds what a misread word names, with or without a space', () => {
		expect(textOf('exerrist 12 vert')).toBe('12 vert');
		expect(textOf('rxestise 14')).toBe('14');
		expect(textOf('droblem4 b')).toBe('4 b');
		expect(textOf('fask 2c)', 0.8)).toBe('2c)');
	});

	it('weighs a word by all that its letters may be, and not by what is read best', () => {
		const [best, word] = [posterior('7aox 9'), posterior('task 9')];
		/** What is read best, with the word's own letters less likely by half. */
		const mixed = { ...best, data: best.data.map((p, i) => 0.67 * p + 0.33 * word.data[i]!) };
		const behind = behindNamingWord(mixed)!;
		expect(
			bestCharacters(behind.line)
				.map((l) => l.character)
				.join('')
		).toBe('9');
		expect(behindNamingWord(best)).toBeNull();
		// What is likelier says more for it.
		const surer = { ...best, data: best.data.map((p, i) => 0.55 * p + 0.45 * word.data[i]!) };
		expect(behindNamingWord(surer)!.evidence).toBeGreaterThan(behind.evidence);
	});

	it('leaves words that were read well, other words, and words with nothing behind', () => {
		expect(textOf('exercise 12')).toBeNull();
		expect(textOf('bottle 12')).toBeNull();
		expect(textOf('estimate 3')).toBeNull();
		expect(textOf('exerrist')).toBeNull();
	});

	it('takes no word for a misread one that is just like it, nor what names several', () => {
		expect(textOf('ask 3 people')).toBeNull();
		for (const several of ['answers 1 to 4', 'tasks 2 and 3', 'problems 3'])
			expect(textOf(several, 0.8)).toBeNull();
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

describe('a cut that tells nothing', () => {
	it('holds a word, well read or not, and no more, where a wider one has a number behind it', () => {
		for (const [cut, wider] of [
			['problem', 'problem 8 square'],
			['tksk', 'tksk 2 bias it'],
			['no.', 'no. 12'],
			['q', 'q (7a) millimetre']
		]) {
			expect(isWordBeforeNumber(cut!, wider!)).toBe(true);
		}
	});

	it('is none where it is a label by itself, and none where no number stands behind', () => {
		for (const [cut, wider] of [
			['2.', '2. 31.5 m'],
			['b)', 'b) 27.3 bottle'],
			['a', 'a 3 m'],
			['which', 'which crest'],
			['problem 8', 'problem 8 3 times']
		]) {
			expect(isWordBeforeNumber(cut!, wider!)).toBe(false);
		}
	});
});
