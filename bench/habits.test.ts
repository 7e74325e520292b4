import { describe, expect, it } from 'vitest';
import { readLine, textLines } from '../tests/support/reading';
import { Random } from '../demo/generator/random';
import { labelCandidates } from '../src/lib/core/reading/labelCandidates';
import { labelForms } from '../src/lib/core/reading/labelForms';
import { pageNumberOptions, readNumber } from '../src/lib/core/reading/pageNumber';
import { PAPER_SIZES } from '../src/lib/core/sheet/paperSize';
import { ELSEWHERE, HABITS, OTHER, USUAL, WIDER } from './habits';

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

	it.each(habits.numbers)('number a page as "%s", which is known', (form) => {
		const text = form.replace('#', '4').replace('N', '9');
		const number = readLine(text, [1340 - 22 * text.length, 70, 1340, 120]);
		expect(readNumber(pageNumberOptions([number, ...BODY], SIZE))?.number).toBe(4);
	});
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

describe('where writers put things', () => {
	const [width, height] = PAPER_SIZES.A4;
	const placings = [WIDER, ELSEWHERE].flatMap((habits) => {
		const random = new Random(7);
		return Array.from({ length: 300 }, () => habits.placing(random) ?? []).flat();
	});

	it('is as on paper with a margin where nothing else is said', () => {
		expect([USUAL, OTHER].map((habits) => habits.placing(new Random(3)))).toEqual([null, null]);
		const random = new Random(7);
		const wider = Array.from({ length: 100 }, () => WIDER.placing(random));
		expect(wider).toContain(null);
		expect(wider.some((placing) => placing !== null)).toBe(true);
	});

	it('is on the page, with room for a line behind where lines begin', () => {
		expect(placings.length).toBeGreaterThan(400);
		for (const { left, header, number, pitch } of placings) {
			expect(left).toBeGreaterThan(5);
			expect(width - left).toBeGreaterThan(150);
			expect(header).toBeGreaterThan(0.7 * pitch);
			expect(number[0]).toBeGreaterThan(0);
			expect(number[0]).toBeLessThan(0.95 * width);
			expect(number[1]).toBeGreaterThan(5);
			expect(number[1]).toBeLessThan(height - 4);
		}
	});

	it('is every corner and every way to put a label', () => {
		const corners = new Set(
			placings.map(
				({ number: [x, y] }) => `${y < height / 2 ? 'above' : 'below'} ${Math.round((3 * x) / width)}`
			)
		);
		expect(corners).toEqual(
			new Set(['above 0', 'above 2', 'above 3', 'below 0', 'below 1', 'below 2', 'below 3'])
		);
		expect(new Set(placings.map((p) => p.labelsAt))).toEqual(new Set(['margin', 'line', 'own']));
		expect(placings.some((p) => p.partIndent > 0)).toBe(true);
		expect(placings.some((p) => p.partIndent === 0)).toBe(true);
	});

	it('leaves the name room beside a number in the same corner', () => {
		for (const { number, header, nameAt } of placings) {
			const isAbove = number[1] < header + 3;
			if (isAbove && number[0] > width / 2) expect(nameAt).not.toBe('right');
			if (isAbove && number[0] < width / 4) expect(nameAt).toBe('right');
		}
	});

	it('has a name for each kind of habits', () => {
		expect(HABITS).toEqual({ wider: WIDER, other: OTHER, elsewhere: ELSEWHERE });
		expect({ ...ELSEWHERE, placing: OTHER.placing }).toEqual(OTHER);
	});
});
