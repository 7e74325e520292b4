import { describe, expect, it } from 'vitest';
import { readLine, textLines } from '../../../../tests/support/reading';
import { pageNumberOptions, pageNumbersByLine, readNumber } from './pageNumber';

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
		expect(placed('p. 2/6', wide('p. 2/6'))).toBeGreaterThan(0.9);
	});

	it('is none where the number is bare, for that may as well be a label, and where a line begins', () => {
		expect(placed('10.', [66, 95, 130, 140])).toBeUndefined();
		expect(placed('3. and so it goes on to the right', [66, 700, 900, 750])).toBeUndefined();
	});
});
