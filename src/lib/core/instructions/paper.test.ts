import { describe, expect, it } from 'vitest';
import { answerables } from '../assignment/question';
import { paperQuestions } from './paper';

/** "1:6 2a:3 2b": ids with their marks. */
const told = (text: string) => {
	const found = paperQuestions(text);
	return (
		found &&
		answerables(found.value)
			.map((a) => (a.marks === null ? a.id : `${a.id}:${a.marks}`))
			.join(' ')
	);
};

describe('questions of a question paper', () => {
	it('are told with parts and marks, in each way they are written', () => {
		expect(
			told(
				'Worksheet 3\n1. Draw the section. [6 marks]\n2. Work out\n(a) the area (3)\n(b) the discharge (5)'
			)
		).toBe('1:6 2a:3 2b:5');
		expect(told('Question 1 [6 marks]\nText of it\nover two lines.\nQuestion 2 [10 marks]')).toBe('1:6 2:10');
		expect(told('Q1 (a) Define stage. 2 points\n(b) Define flow. 3 points\nQ2 Sketch it. 5 points')).toBe(
			'1a:2 1b:3 2:5'
		);
		expect(told('1) One 4 pts\n2) Two 5 pts\n3) Three')).toBe('1:4 2:5 3');
	});

	it('come one after the other: numbers in the text, years and totals begin none', () => {
		expect(
			told(
				'1. In 1953 the gauge stood at\n12 m above the bed. How high was the water? [4]\n2. The next year? [2]\nTotal: 6 marks'
			)
		).toBe('1:4 2:2');
		expect(told('1. First [3]\n7. Not the next one\n2. Second [2]')).toBe('1:3 2:2');
	});

	it('with a number that was not read are told, and not sure', () => {
		const found = paperQuestions('1. First [3]\n3. Third [2]')!;
		expect(found.value.map((q) => q.label)).toEqual(['1', '3']);
		expect(found.sure).toBe(false);
	});

	it('point to the words that they come from', () => {
		const text = 'Sheet\n  1. First [3]\n2. Second';
		const { spans } = paperQuestions(text)!;
		expect(spans.map(({ from, to }) => text.slice(from, to))).toEqual(['1.', '[3]', '2.']);
	});

	it('that must begin on a new page say so', () => {
		const found = paperQuestions('1. One [1]\n2. Two [1] Begin on a new page.')!;
		expect(found.value.map((q) => q.newPage ?? false)).toEqual([false, true]);
	});

	it('are not seen in plain instructions', () => {
		expect(told('Hand in:\n1. a scan\n2. the form')).toBeNull();
		expect(told('One PDF, 4 to 6 pages.')).toBeNull();
	});
});
