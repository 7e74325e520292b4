import { createCanvas, type SKRSContext2D } from '@napi-rs/canvas';
import { describe, expect, it } from 'vitest';
import { hands } from './hands';
import { someManner, writeByLetter, type DigitShape, type DrawnHand, type Letter } from './penman';
import { Random } from './random';

const [WIDTH, HEIGHT] = [900, 140];

function written(
	text: string,
	digits: DigitShape[][] | null,
	seed = 5,
	drawn?: readonly DrawnHand[]
): { letters: Letter[]; ink: number[] } {
	const c = createCanvas(WIDTH, HEIGHT).getContext('2d');
	c.fillStyle = '#fff';
	c.fillRect(0, 0, WIDTH, HEIGHT);
	const random = new Random(seed);
	const { family, scale } = hands()[2]!;
	const manner = { ...someManner(random, digits), slant: 0, unevenness: 0.3, ...(drawn && { drawn }) };
	const letters = writeByLetter(c, text, [40, 90], 60 * scale, family, 'rgba(0,0,0,1)', manner, random);
	const { data } = c.getImageData(0, 0, WIDTH, HEIGHT);
	// Ink in each column.
	const ink = Array.from({ length: WIDTH }, (_, x) => {
		let dark = 0;
		for (let y = 0; y < HEIGHT; y++) if (data[4 * (y * WIDTH + x)]! < 128) dark++;
		return dark;
	});
	return { letters, ink };
}

/** A bar down the left side of its box, and nothing else. */
const BAR: DigitShape = {
	width: 10,
	height: 20,
	data: Float32Array.from({ length: 200 }, (_, i) => (i % 10 < 3 ? 1 : 0))
};

describe('a writer', () => {
	it('writes letter by letter, from left to right, and says where each lies', () => {
		const { letters, ink } = written('Q3 (b) tape', null);
		expect(letters.map((l) => l.character).join('')).toBe('Q3(b)tape');
		for (const [i, { x0, x1 }] of letters.entries()) {
			expect(x1).toBeGreaterThan(x0);
			if (i > 0) expect(x0).toBeGreaterThan(letters[i - 1]!.x0);
			const here = ink.slice(Math.round(x0) - 2, Math.round(x1) + 3);
			expect(Math.max(...here), letters[i]!.character).toBeGreaterThan(0);
		}
	});

	it('writes other people’s digits in place of the font’s, each its own', () => {
		const digits = Array.from({ length: 10 }, () => [BAR]);
		const { letters, ink } = written('407', digits);
		for (const { x0, x1 } of letters) {
			const middle = Math.round((x0 + x1) / 2 + 0.1 * (x1 - x0));
			expect(Math.max(...ink.slice(Math.round(x0), middle))).toBeGreaterThan(20);
			expect(Math.max(...ink.slice(middle + 2, Math.round(x1)))).toBe(0);
		}
	});

	it('writes in a hand that is drawn, and what that has no strokes for in the font', () => {
		const square = (c: SKRSContext2D, character: string, size: number) => {
			if (character !== 'a') return null;
			c.fillRect(0, -size / 2, size / 2, size / 2);
			return size;
		};
		const { letters, ink } = written('ab', null, 5, [{ draw: square }]);
		const [a, b] = letters as [Letter, Letter];
		const high = ink.slice(Math.round(a.x0) + 3, Math.round((a.x0 + a.x1) / 2) - 3);
		expect(Math.min(...high)).toBeGreaterThan(0.8 * Math.max(...high));
		expect(a.x1 - a.x0).toBeGreaterThan(1.5 * (b.x1 - b.x0));
		const other = ink.slice(Math.round(b.x0), Math.round(b.x1));
		expect(Math.max(...other)).toBeGreaterThan(0);
		expect(Math.min(...other.slice(2, -2))).toBeLessThan(0.5 * Math.max(...other));
	});

	it('writes the same again from the same seed, and otherwise from another', () => {
		expect(written('so Q is 0.25', null, 5).ink).toEqual(written('so Q is 0.25', null, 5).ink);
		expect(written('so Q is 0.25', null, 6).ink).not.toEqual(written('so Q is 0.25', null, 5).ink);
	});
});
