import { describe, expect, it } from 'vitest';
import { readLine, textLines } from '../../../../tests/support/reading';
import { describeLabels, FEATURES } from './describeLabels';
import { labelCandidates } from './labelCandidates';
import { labelForms } from './labelForms';
import { CLASSES, NOTHING, SPACE } from './linePosterior';
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

describe('what looks like a label', () => {
	const feature = (
		name: (typeof FEATURES)[number],
		line: ReadLine,
		says: { readonly question: string | null; readonly part: string | null },
		others: readonly ReadLine[] = textLines(300, TEXTS)
	) => {
		const option = describeLabels([line, ...others], SIZE, FORMS).find(
			(o) => o.line === 0 && o.meaning.question === says.question && o.meaning.part === says.part
		);
		expect(option).toBeDefined();
		return option!.features[FEATURES.indexOf(name)]!;
	};
	const part = { question: null, part: 'a' } as const;
	const third = { question: '3', part: null } as const;

	it('may be an article: a word follows it, and no bracket', () => {
		expect(feature('an article', readLine('a weir that was low', [210, 700, 560, 750]), part)).toBe(1);
		expect(feature('an article', readLine('a. weir that was low', [210, 700, 560, 750]), part)).toBe(1);
		expect(feature('an article', readLine('a) weir that was low', [210, 700, 560, 750]), part)).toBe(0);
		expect(feature('an article', readLine('(a) weir that was low', [210, 700, 560, 750]), part)).toBe(0);
		expect(feature('an article', readLine('a', [210, 700, 230, 750]), part)).toBe(0);
	});

	it('may be the number of the page, where it is bare or has only a point, and stands as one does', () => {
		const chance = (text: string, box: readonly [number, number, number, number]) =>
			feature('chance of a bare page number', readLine(text, box), third);
		expect(chance('3', [1250, 60, 1280, 110])).toBeGreaterThan(0.5);
		expect(chance('3.', [1250, 1900, 1290, 1945])).toBeGreaterThan(0.5);
		expect(chance('3', [100, 900, 130, 950])).toBe(0);
		expect(chance('Q3', [1240, 60, 1290, 110])).toBe(0);
	});

	it('may stand in a line of its own, with its word or its sign', () => {
		const own = (text: string, name: 'named, alone' | 'signed, alone', right = 300) =>
			feature(name, readLine(text, [210, 700, right, 750]), third);
		expect([own('Q3', 'named, alone'), own('Q3', 'signed, alone')]).toEqual([1, 0]);
		expect([own('3)', 'named, alone'), own('3)', 'signed, alone')]).toEqual([0, 1]);
		expect(own('Q3 the lode runs slower', 'named, alone', 640)).toBe(0);
		expect(own('3) the lode runs slower', 'signed, alone', 640)).toBe(0);
	});

	it('may be a number within a line, behind a word that names no question', () => {
		const within = (text: string) =>
			feature('behind a word', readLine('3', [320, 702, 350, 748], 'mark'), third, [
				readLine(text, [210, 700, 640, 750]),
				...textLines(300, TEXTS)
			]);
		expect(within('see 3 the lode runs')).toBe(1);
		expect(within('Problem 3 the lode')).toBe(0);
		expect(within('4) 3 the lode runs')).toBe(0);
	});

	it('may be a part in brackets, which words seldom have', () => {
		const brackets = (text: string) =>
			feature('part only, in brackets', readLine(text, [120, 700, 170, 750]), part);
		expect([brackets('(a)'), brackets('[a]'), brackets('a)'), brackets('a.')]).toEqual([1, 1, 0, 0]);
	});

	it('has its sign, where nobody can tell whether a space stands before that', () => {
		const line = () => readLine('3 - the lode runs', [210, 700, 560, 750]);
		const [plain, unclear] = [line(), line()];
		const { data } = unclear.posteriors[0]!;
		const gap = data.findIndex((p, i) => i % CLASSES === SPACE && p > 0.9);
		expect(gap).toBeGreaterThan(0);
		data[gap] = 0.5;
		data[gap - SPACE + NOTHING] = 0.5;
		for (const one of [plain, unclear]) {
			expect([feature('signed', one, third), feature('bare', one, third)]).toEqual([1, 0]);
		}
		expect(feature('log score', unclear, third)).toBeCloseTo(feature('log score', plain, third), 1);
	});

	it('is none where it says what a quantity is', () => {
		const letters = (text: string) =>
			describeLabels([readLine(text, [210, 700, 560, 750])], SIZE, FORMS).filter(
				({ meaning }) => meaning.question === null && meaning.part === 'a'
			);
		expect(letters('a = 8.84 m')).toEqual([]);
		expect(letters('a= 8.84 m')).toEqual([]);
		expect(letters('a 8.84 m')).toHaveLength(1);
		expect(letters('a) = 8.84 m')).toHaveLength(1);
	});

	it('is no person’s number, also where a stroke of it became a sign', () => {
		const third = (text: string) =>
			describeLabels([readLine(text, [210, 100, 560, 150]), ...textLines(300, TEXTS)], SIZE, FORMS).filter(
				(o) => o.line === 0 && o.meaning.question === '3'
			);
		expect(third('no. 3 / 168')).toEqual([]);
		expect(third('No 31168')).toEqual([]);
		expect(third('no. 3')).not.toEqual([]);
		expect(third('no. 3 120 m')).not.toEqual([]);
		expect(third('task 3 1168')).not.toEqual([]);
	});

	it('is none where it begins a time', () => {
		const found = describeLabels(
			[readLine('7:51 at the weir', [210, 700, 560, 750])],
			SIZE,
			labelForms(null)
		);
		expect(found.filter((o) => o.meaning.question === '7' && o.meaning.part === null)).toEqual([]);
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

describe('a page that its reader hardly reads', () => {
	/** What is written in another script is read as some letters or other, and unsurely. */
	const unsure = (lines: readonly ReadLine[], confidence: number) =>
		lines.map((line) => ({ ...line, confidence }));
	const body = textLines(300, TEXTS);
	const strangely = (others: readonly ReadLine[], confidence = 0.95) => {
		const lines = unsure([readLine('2.', [110, 300, 150, 350]), ...others], confidence);
		const option = describeLabels(lines, SIZE, FORMS).find((o) => o.meaning.question === '2')!;
		return ['page hardly read', 'page without lines'].map(
			(name) => option.features[(FEATURES as readonly string[]).indexOf(name)]
		);
	};

	it('is known by how surely its lines are read', () => {
		expect(strangely(body)).toEqual([0, 0]);
		const [hardly, without] = strangely(body, 0.55);
		expect(hardly).toBeCloseTo(1.5, 6);
		expect(without).toBe(0);
	});

	it('is one where there is no line', () => {
		const mark = { ...readLine('2.', [110, 300, 150, 350]), kind: 'mark' as const };
		const [option] = describeLabels([mark], SIZE, FORMS);
		expect(option!.features[FEATURES.indexOf('page without lines')]).toBe(1);
	});

	it('has labels that are less likely, the less its lines are read', () => {
		const likely = [0.95, 0.65, 0.45].map((confidence) => {
			const lines = unsure([readLine('2.', [110, 300, 150, 350]), ...body], confidence);
			return labelCandidates(lines, SIZE, FORMS)[0]?.options[0]?.probability ?? 0;
		});
		expect(likely[0]).toBeGreaterThan(0.5);
		expect(likely[1]).toBeLessThan(likely[0]!);
		expect(likely[2]).toBeLessThan(likely[1]!);
	});
});
