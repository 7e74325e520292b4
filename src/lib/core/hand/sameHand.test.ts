import { describe, expect, it } from 'vitest';
import { specimenPage } from '../../../../bench/situations';
import { hands } from '../../../../demo/generator/hands';
import { luma } from '../raster/luma';
import { below } from '../raster/below';
import { components } from '../raster/components';
import { blackAndWhite } from '../tone/blackAndWhite';
import { measureHand } from './measureHand';
import { describePair, handOf, HAND_FEATURES, sameHand, type Hand } from './sameHand';
import { HAND_WEIGHTS } from './handWeights';

const DPI = 203;
const WORDS =
	'the lode runs slower near the reeds so we took three verticals and read the meter for sixty seconds at each depth then averaged both readings'.split(
		' '
	);
const COLOURS = { red: 0.3, blue: 0.4, dark: 1.6, paper: [0.97, 0.96, 0.94] } as const;

/** A page in one of the demo's hands; `from` says with which of the words it begins. */
function written(hand: number, from: number, lineCount = 14): Hand {
	const line = (k: number) =>
		Array.from({ length: 6 }, (_, i) => WORDS[(from + 5 * k + i) % WORDS.length]).join(' ');
	const { picture } = specimenPage(50 + from, 8, {
		hand: hands()[hand]!,
		ruling: 'plain',
		name: undefined,
		pageNumber: undefined,
		blocks: [{ kind: 'text', lines: Array.from({ length: lineCount }, (_, k) => line(k)) }]
	});
	const page = luma(picture);
	const { width, height } = page;
	const ink = below(blackAndWhite(page, DPI), 1);
	const groups = components(ink, width, height);
	const heights = groups.list.map((c) => c.y1 - c.y0).filter((h) => h > 12);
	const letter = heights.sort((a, b) => a - b)[heights.length >> 1]!;
	const lines = Array.from({ length: lineCount }, (_, k): [number, number] => [200, 200 + 64 * k]);
	return handOf(measureHand({ ...groups, width, height, letter, dotsPerInch: DPI }, lines), COLOURS);
}

describe('whether one hand wrote two pages', () => {
	const [one, again, other] = [written(0, 0), written(0, 11), written(3, 4)];

	it('is likelier for one writer’s pages than for two writers’', () => {
		expect(sameHand(one, again)).toBeGreaterThan(0);
		expect(sameHand(one, other)).toBeLessThan(0);
		expect(sameHand(again, other)).toBeLessThan(0);
	});

	it('says the same whichever comes first, and nothing speaks more than it may', () => {
		expect(sameHand(one, other)).toBe(sameHand(other, one));
		expect(sameHand(one, one)).toBeLessThanOrEqual(2.5);
		expect(sameHand(one, other)).toBeGreaterThanOrEqual(-4);
	});

	it('is less likely with another pen', () => {
		const red = { ...again, colours: { ...COLOURS, red: 0.05, blue: 0.6, dark: 0.9 } };
		expect(sameHand(one, red)).toBeLessThan(sameHand(one, again));
	});

	it('is not told by a word or two', () => {
		const little = { ...again, measures: { ...again.measures, contour: 400 } };
		expect(describePair(one, little)).toBeNull();
		expect(sameHand(one, little)).toBe(0);
	});

	it('has a weight for everything that is described', () => {
		expect(describePair(one, other)).toHaveLength(HAND_FEATURES.length);
		expect(HAND_WEIGHTS).toHaveLength(HAND_FEATURES.length);
	});
});
