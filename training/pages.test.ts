import { describe, expect, it } from 'vitest';
import { hands } from '../demo/generator/hands';
import { Random } from '../demo/generator/random';
import type { WrittenRun } from '../demo/generator/writtenPage';
import { errorRate } from '../bench/errorRate';
import { SHORT_HEIGHT } from '../src/lib/core/reading/shortCrop';
import { readShort } from '../src/lib/server/reader/readShort';
import { samplesOfPage, writtenIn } from './pages';

/** Letters twenty wide from `x` on, spaces too. */
function run(text: string, x: number, y: number): WrittenRun {
	const places = [...text].flatMap((c, i) => (c === ' ' ? [] : [x + 20 * i]));
	return { text, size: 40, letters: places.map((x0) => ({ x0, x1: x0 + 20, y })) };
}

describe('what is written in a box of a page', () => {
	const label = run('Q2 (b)', 100, 300);
	const line = run('the mean depth of all five verticals', 260, 302);

	it('is the letters in it, with their spaces, in the alphabet of the recogniser', () => {
		expect(writtenIn([95, 260, 230, 312], [label])).toEqual({ text: 'q2 (b)', short: true });
		expect(writtenIn([95, 260, 142, 312], [label])).toEqual({ text: 'q2', short: true });
	});
	it('goes on into what stands beside it', () => {
		expect(writtenIn([95, 260, 402, 312], [line, label])).toEqual({ text: 'q2 (b) the mea', short: true });
		expect(writtenIn([255, 260, 402, 312], [line, label])).toEqual({ text: 'the mea', short: false });
	});
	it('ends where the recogniser is shown no more, however long the box', () => {
		expect(writtenIn([260, 285, 1000, 305], [line])?.text).toBe('the mean dep');
	});
	it('holds a letter that is cut at its right when most of it is there', () => {
		expect(writtenIn([95, 260, 136, 312], [label])?.text).toBe('q2');
		expect(writtenIn([95, 260, 131, 312], [label])?.text).toBe('q');
	});
	it('cannot be said where a letter is cut at its left, or lines stand above each other', () => {
		expect(writtenIn([110, 260, 230, 312], [label])).toBeNull();
		expect(writtenIn([95, 260, 230, 352], [label, run('(c)', 100, 345)])).toBeNull();
	});
	it('is nothing where no letter is', () => {
		expect(writtenIn([400, 600, 500, 640], [label, line])).toBeNull();
	});
});

describe('the pieces of a page', () => {
	it('are as the recogniser is shown them, and say what stands there', async () => {
		const [hand] = hands();
		const samples = await samplesOfPage(new Random(5), [hand!], [], 0);
		expect(samples.length).toBeGreaterThan(15);
		const read = await readShort(samples.map((s) => s.crop));
		const errors = samples.map(({ crop, text }, i) => {
			expect(crop.height).toBe(SHORT_HEIGHT);
			return errorRate(text, read[i]!.text.trim());
		});
		// A wrong mapping from what was written to what was prepared would tell them apart at once.
		const misread = errors.filter((e) => e > 0.5);
		expect(misread.length).toBeLessThan(0.15 * samples.length);
	});
});
