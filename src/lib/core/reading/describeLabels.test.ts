import { describe, expect, it } from 'vitest';
import { readLine, textLines } from '../../../../tests/support/reading';
import { describeLabels, FEATURES } from './describeLabels';
import { labelCandidates } from './labelCandidates';
import { labelForms } from './labelForms';
import type { ReadLine } from './readLine';

const SIZE = [1400, 2000] as const;
const FORMS = labelForms([
	{ label: '1' },
	{ label: '2' },
	{ label: '3', parts: [{ label: 'a' }, { label: 'b' }, { label: 'c' }] }
]);
const TEXTS = ['the lode runs slower near the reeds', 'so we took three verticals here'];

/** What is said of "2." at a height, among other lines. */
function said(feature: (typeof FEATURES)[number], y: number, others: readonly ReadLine[], width = 600) {
	const label = readLine('2.', [210, y, 210 + width, y + 50]);
	const option = describeLabels([label, ...others], SIZE, FORMS).find(
		(o) => o.line === 0 && o.meaning.question === '2'
	);
	expect(option).toBeDefined();
	return option!.features[FEATURES.indexOf(feature)]!;
}

describe('a label by where it stands', () => {
	const header = textLines(80, ['Homework 4: the sluice']);

	it('is the first under the header, where nothing but the header stands above', () => {
		expect(said('first under the header', 240, [...header, ...textLines(300, TEXTS)])).toBe(1);
		expect(said('first under the header', 420, [...header, ...textLines(300, TEXTS)])).toBe(0);
		// In the header itself.
		expect(said('first under the header', 40, textLines(300, TEXTS))).toBe(0);
	});

	it('is near the top, whatever stands above', () => {
		expect(said('near the top', 240, textLines(160, TEXTS.slice(1)))).toBe(1);
		expect(said('near the top', 340, [])).toBe(0);
	});

	it('is alone, and its line goes on', () => {
		expect(said('alone, its line goes on', 700, textLines(300, TEXTS))).toBe(1);
		expect(said('alone, its line goes on', 700, textLines(300, TEXTS), 60)).toBe(0);
	});
});

describe('a question and its part side by side', () => {
	it('are one label, of which nothing is said that cannot be', () => {
		const lines = [
			readLine('3', [60, 700, 90, 750], 'mark'),
			readLine('(b)', [130, 700, 190, 750], 'mark'),
			...textLines(300, TEXTS),
			...textLines(700, ['and read the meter for a minute'])
		];
		const found = labelCandidates(lines, SIZE, FORMS).filter((c) => Math.abs(c.y - 0.35) < 0.01);
		expect(found).toHaveLength(1);
		const [{ options }] = found as [(typeof found)[0]];
		expect(options[0]).toMatchObject({ question: '3', part: 'b' });
		expect(options.every((o) => o.probability >= 0.01)).toBe(true);
		expect(options.reduce((sum, o) => sum + o.probability, 0)).toBeLessThanOrEqual(1);
	});
});
