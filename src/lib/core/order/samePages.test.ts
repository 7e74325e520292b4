import { describe, expect, it } from 'vitest';
import { cluesOfPage } from '../../../../tests/support/clues';
import { label, reading } from '../../../../tests/support/reading';
import type { PageClues } from './pageClues';
import type { SettledNumber } from './pageNumbers';
import { isSamePage, repeatedPages } from './samePages';

/** Cells of a page's map, 84 x 48, with writing where `isWritten` says. */
function print(isWritten: (x: number, y: number) => boolean): string {
	let cells = '';
	for (let y = 0; y < 48; y++) for (let x = 0; x < 84; x++) cells += isWritten(x, y) ? 'f' : '0';
	return cells;
}
/** Words as a hand of its own sets them: gaps fall otherwise for every `hand`. */
const words = (hand: number) =>
	print((x, y) => y % 4 < 2 && y > 6 && (x * 7 + hand * 13 * Math.floor(y / 4) + x * y * hand) % 11 < 6);
const TEXTS = ['the gauge rose by a third', 'and fell again in the night', 'so that the mean is lower'];
const OTHERS = [
	'velocity is distance by time',
	'roots of both are needed here',
	'where friction was left out'
];

const clues = (page: string, change: Partial<PageClues> = {}) =>
	cluesOfPage(page, { fingerprint: words(1), reading: reading({ texts: TEXTS }), ...change });
const numbered = (number: number, confidence: number): SettledNumber => ({
	number,
	of: null,
	confidence,
	said: false,
	shares: new Map([[number, confidence]])
});

describe('two pictures', () => {
	it('are of one page where its writing lies and reads alike, also with letters misread', () => {
		expect(isSamePage(clues('a'), clues('b'))).toBe(true);
		const misread = TEXTS.map((t) => t.replace('th', 'lh').toUpperCase());
		expect(isSamePage(clues('a'), clues('b', { reading: reading({ texts: misread }) }))).toBe(true);
	});

	it('are of two where the writing lies elsewhere, whatever it says', () => {
		expect(isSamePage(clues('a'), clues('b', { fingerprint: words(4) }))).toBe(false);
		expect(isSamePage(clues('a'), clues('b', { fingerprint: '' }))).toBe(false);
	});

	it('are of one by their maps alone where hardly a letter was read, or only one of them in full', () => {
		const few = { reading: reading({ texts: ['so it is'], labels: [label(0.2, '1')] }) };
		expect(isSamePage(clues('a', few), clues('b', few))).toBe(true);
		expect(isSamePage(clues('a', { reading: null }), clues('b'))).toBe(true);
		const begun = { reading: { ...reading({ texts: OTHERS }), startsOnly: true as const } };
		expect(isSamePage(clues('a', begun), clues('b'))).toBe(true);
	});
});

describe('a page that is there twice', () => {
	const none = (pages: readonly PageClues[]) => pages.map(() => null);

	it('is kept as its most readable picture', () => {
		const pages = [clues('a', { legibility: 0.5 }), clues('b', { legibility: 0.9 }), clues('c')];
		expect(repeatedPages(pages, none(pages))).toEqual([1, null, 1]);
	});

	it('is kept as the first of pictures that are equally readable', () => {
		const pages = [clues('a'), clues('b'), clues('c', { fingerprint: words(4) })];
		expect(repeatedPages(pages, none(pages))).toEqual([null, 0, null]);
	});

	it('is two pages where both carry numbers that are surely different', () => {
		const pages = [clues('a'), clues('b')];
		expect(repeatedPages(pages, [numbered(1, 0.95), numbered(2, 0.95)])).toEqual([null, null]);
		expect(repeatedPages(pages, [numbered(1, 0.95), numbered(2, 0.6)])).toEqual([null, 0]);
		expect(repeatedPages(pages, [numbered(2, 0.95), numbered(2, 0.95)])).toEqual([null, 0]);
		expect(repeatedPages(pages, [numbered(1, 0.95), null])).toEqual([null, 0]);
	});

	it('is none of blank ones: they are all alike', () => {
		const pages = [clues('a', { blank: true }), clues('b', { blank: true })];
		expect(repeatedPages(pages, none(pages))).toEqual([null, null]);
	});
});
