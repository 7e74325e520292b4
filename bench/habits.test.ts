import { describe, expect, it } from 'vitest';
import { readLine, textLines } from '../tests/support/reading';
import { Random } from '../demo/generator/random';
import { labelCandidates } from '../src/lib/core/reading/labelCandidates';
import { labelForms } from '../src/lib/core/reading/labelForms';
import { pageNumberOptions, readNumber } from '../src/lib/core/reading/pageNumber';
import { OTHER, USUAL, WIDER } from './habits';

const SIZE = [1400, 2000] as const;
const FORMS = labelForms(null);
const BODY = textLines(
	300,
	Array.from({ length: 12 }, () => 'a line that is as long as most of them')
);

/** What is read of a label in the margin beside the writing, where its letters are clear. */
function asLabel(text: string) {
	const label = readLine(text, [140 - 14 * text.length, 480, 150, 530]);
	const found = labelCandidates([label, ...BODY], SIZE, FORMS).find((c) => Math.abs(c.y - 0.24) < 0.01);
	const best = found?.options[0];
	return best && best.probability > 0.5 ? `${best.question ?? ''}${best.part ?? ''}` : null;
}
const filled = (form: string, question: string, part = '') => form.replace('#', question).replace('~', part);

describe.each([
	['usual', USUAL],
	['wider', WIDER]
] as const)('writers of the %s kind', (_, habits) => {
	it.each(habits.labels)('label a question as "%s", which is known', (form) => {
		expect(asLabel(filled(form, '3'))).toBe('3');
	});

	it.each(habits.parts)('label a part as "%s", which is known', (form) => {
		expect(asLabel(filled(form, '3', 'b'))).toBe('3b');
	});

	it.each(habits.partsAlone.filter((form) => form !== '~'))(
		'label a part alone as "%s", which is known',
		(form) => {
			expect(asLabel(filled(form, '', 'b'))).toBe('b');
		}
	);

	// Of the others' words one is of another language: its number is read off by what else stands there, or not at all.
	it.each(habits.numbers.filter((form) => !form.startsWith('Seite')))(
		'number a page as "%s", which is known',
		(form) => {
			const text = form.replace('#', '4').replace('N', '9');
			const number = readLine(text, [1340 - 22 * text.length, 70, 1340, 120]);
			expect(readNumber(pageNumberOptions([number, ...BODY], SIZE))?.number).toBe(4);
		}
	);
});

describe('what writers put on their pages', () => {
	it.each([
		['usual', USUAL],
		['wider', WIDER],
		['other', OTHER]
	] as const)('is drawn the same again from the same chances: %s', (_, habits) => {
		const drawn = (seed: number) => {
			const random = new Random(seed);
			return Array.from({ length: 40 }, () => [
				habits.header(random),
				habits.aside(random),
				habits.likeLabel(random)
			]);
		};
		expect(drawn(5)).toEqual(drawn(5));
		expect(drawn(5)).not.toEqual(drawn(6));
	});

	it('stands on the page: no line of a header begins beyond its right half, no list takes more lines than it has', () => {
		for (const habits of [WIDER, OTHER]) {
			const random = new Random(11);
			for (let i = 0; i < 400; i++) {
				for (const { at, text } of habits.header(random)) {
					expect(at).toBeGreaterThan(0);
					expect(at).toBeLessThan(0.75);
					expect(text).not.toBe('');
				}
				const aside = habits.aside(random);
				if (aside?.block.kind === 'text') expect(aside.lines).toBe(aside.block.lines.length);
			}
		}
	});
});
