import { describe, expect, it } from 'vitest';
import { mixed, readLine, textLines } from '../../../../tests/support/reading';
import {
	describeNumbers,
	NUMBER_FEATURES,
	pageNumberOptions,
	pageNumbersByLine,
	readNumber,
	type DescribedNumber
} from './pageNumber';

const SIZE = [1400, 2000] as const;
const BODY = textLines(
	300,
	Array.from({ length: 8 }, () => 'a line that is as long as most of them')
);
type Box = readonly [number, number, number, number];
const CORNER: Box = [1200, 60, 1300, 110];
const read = (text: string, box: Box = CORNER) =>
	readNumber(pageNumberOptions([readLine(text, box), ...BODY], SIZE));
const wide = (text: string): Box => [1340 - 24 * text.length, 60, 1340, 110];

const named = ({ features }: DescribedNumber, name: (typeof NUMBER_FEATURES)[number]) =>
	features[NUMBER_FEATURES.indexOf(name)];

describe('the number of a page', () => {
	it.each([
		['p. 2/6', 2, 6],
		['2 of 4', 2, 4],
		['page 3', 3, null],
		['-5-', 5, null],
		['p12', 12, null],
		['sheet 3 of 9', 3, 9]
	] as const)('is read off "%s"', (text, number, of) => {
		const found = read(text, wide(text));
		expect([found?.number, found?.of]).toEqual([number, of]);
	});

	it('is read off a bare one that stands alone in a corner', () => {
		expect(read('4', [1250, 60, 1280, 110])?.number).toBe(4);
	});

	it.each([
		['in the middle of the page', '4', [1250, 900, 1280, 950]],
		['that is a date', '26.11.2026', [1050, 60, 1340, 110]],
		['that is a name', 'Ilka Brandsma', [900, 60, 1340, 110]]
	] as const)('is none %s', (_, text, box) => {
		expect(read(text, box)).toBeNull();
	});

	it.each(['sheet 3', 'Sheet 3', 'pg. 3', 'pg 3'])(
		'is all that a line says, and not its last word by itself: %s',
		(text) => {
			const found = describeNumbers([readLine(text, wide(text)), ...BODY], SIZE);
			expect(found.map((one) => one.value)).toEqual([{ number: 3, of: null }]);
			expect(named(found[0]!, 'behind other words')).toBe(0);
		}
	);

	it('stands behind a word that was misread, as far as the word may be the right one', () => {
		/** "pr 8", where the second letter may be a g as well. */
		const likeWord = (share: number) => ({
			...readLine('pr 8', wide('pr 8')),
			posteriors: [{ ...mixed('pg 8', 'pr 8', share), caseless: true }]
		});
		const best = (share: number) => describeNumbers([likeWord(share), ...BODY], SIZE)[0]!;
		expect(best(0.1).value).toEqual({ number: 8, of: null });
		expect(named(best(0.1), 'word misread')).toBe(1);
		expect(named(best(0.1), 'word before')).toBe(1);
		// The word is nothing where its letter is no g.
		const without = describeNumbers([likeWord(0), ...BODY], SIZE);
		expect(without.filter((one) => named(one, 'word misread') === 1)).toEqual([]);
		expect(named(best(0.995), 'word misread')).toBe(0);
		expect(describeNumbers([readLine('wk 3', wide('wk 3')), ...BODY], SIZE)).toEqual([]);
	});

	it('is none of a worksheet, also where that is written as two words', () => {
		for (const text of ['Worksheet 3', 'Work sheet 3']) expect(read(text, wide(text)), text).toBeNull();
		expect(read('Ilka Brandsma sheet 3', wide('Ilka Brandsma sheet 3'))?.number).toBe(3);
	});

	it('is nothing where a bare number ends a line of other words', () => {
		const text = 'Homework 3';
		expect(describeNumbers([readLine(text, wide(text)), ...BODY], SIZE)).toEqual([]);
	});

	it.each([
		['in no corner where it stands over the writing', [500, 60, 530, 110], 'bare, in no corner', 1],
		['in a corner right above', [1150, 60, 1180, 110], 'bare, in no corner', 0],
		['in a corner of the foot', [60, 1890, 90, 1935], 'bare, in no corner', 0]
	] as const)('tells that a bare one stands %s', (_, box, feature, value) => {
		const found = describeNumbers([readLine('3', [...box]), ...BODY], SIZE);
		expect(found.map((one) => [one.value.number, named(one, feature)])).toContainEqual([3, value]);
	});

	it('tells of a bare one that a line begins behind it, as behind a label', () => {
		const beside = readLine('and so it goes on', [330, 55, 900, 115]);
		const [one] = describeNumbers([readLine('3', [200, 60, 230, 110]), beside, ...BODY], SIZE);
		expect(named(one!, 'bare, before a line')).toBe(1);
	});

	it('is not read off what a count stands beside: of "3 of 9" the 9 is none', () => {
		const lines = [readLine('3 of', [1150, 60, 1230, 110]), readLine('9', [1250, 60, 1280, 110]), ...BODY];
		expect(readNumber(pageNumberOptions(lines, SIZE))?.number).toBe(3);
	});

	it('is as likely as all ways together in which it may be written', () => {
		const option = (number: number, of: number | null, probability: number) => ({ number, of, probability });
		expect(readNumber([option(2, 4, 0.4), option(2, 6, 0.3), option(7, null, 0.2)])).toEqual({
			number: 2,
			of: 4,
			probability: 0.7
		});
		expect(readNumber([option(2, null, 0.3), option(7, null, 0.3)])).toBeNull();
		expect(readNumber([])).toBeNull();
	});
});

describe('a place where a page’s number may stand', () => {
	const placed = (text: string, box: Box) => pageNumbersByLine([readLine(text, box), ...BODY], SIZE).get(0);

	it('is surely one where it is written as nothing else is', () => {
		expect(placed('p. 2/6', wide('p. 2/6'))!.written).toBeGreaterThan(0.9);
	});

	it('is none where it is bare and the page’s number is written out elsewhere', () => {
		const chance = (...others: ReturnType<typeof readLine>[]) =>
			pageNumbersByLine([readLine('3', [1250, 60, 1280, 110]), ...others, ...BODY], SIZE).get(0)!.bare;
		expect(chance()).toBeGreaterThan(0.5);
		expect(chance(readLine('3 of 4', [700, 1900, 830, 1950]))).toBeLessThan(0.2);
	});

	it('says a bare number apart, for that may as well be a label, and nothing where a line begins', () => {
		expect(placed('10.', [66, 95, 130, 140])).toEqual({ written: 0, bare: expect.any(Number) });
		expect(placed('3. and so it goes on to the right', [66, 700, 900, 750])).toBeUndefined();
	});
});
