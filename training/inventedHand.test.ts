import { createCanvas } from '@napi-rs/canvas';
import { describe, expect, it } from 'vitest';
import { Random } from '../demo/generator/random';
import { SHORT_ALPHABET } from '../src/lib/core/reading/shortAlphabet';
import { inventHand, strokesOf } from './inventedHand';
import { STROKES } from './strokes';

const SIZE = 60;
const [WIDTH, HEIGHT, LEFT, BASE] = [120, 120, 30, 80] as const;

/** One letter of a hand: its width, and for each pixel whether there is ink. */
function drawn(hand: ReturnType<typeof inventHand>, character: string, seed: number) {
	const c = createCanvas(WIDTH, HEIGHT).getContext('2d');
	c.translate(LEFT, BASE);
	const width = hand.draw(c, character, SIZE, new Random(seed));
	const { data } = c.getImageData(0, 0, WIDTH, HEIGHT);
	return { width, ink: Array.from({ length: WIDTH * HEIGHT }, (_, i) => data[4 * i + 3]! > 128) };
}

function rowsOf(ink: readonly boolean[]): { top: number; bottom: number } {
	const first = ink.indexOf(true);
	return { top: Math.floor(first / WIDTH), bottom: Math.floor(ink.lastIndexOf(true) / WIDTH) };
}

/** Share of the ink of two that is in one of them only. */
function differ(a: readonly boolean[], b: readonly boolean[]): number {
	let [either, one] = [0, 0];
	a.forEach((is, i) => {
		either += Number(is || b[i]!);
		one += Number(is !== b[i]);
	});
	return one / either;
}

describe('ways to write', () => {
	it('are there for every character that is read', () => {
		const missing = [...SHORT_ALPHABET].filter((c) => c !== ' ' && !STROKES[c]);
		expect(missing).toEqual([]);
		const capitals = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ';
		expect([...capitals].filter((c) => !STROKES[c])).toEqual([]);
	});

	it.each(Object.entries(STROKES))(
		'of %s are strokes of at least two points, where letters are',
		(_, ways) => {
			for (const way of ways) {
				for (const stroke of strokesOf(way)) {
					expect(stroke.length, way).toBeGreaterThan(1);
					for (const { x, y } of stroke) {
						expect(x, way).toBeGreaterThanOrEqual(-0.25);
						expect(x, way).toBeLessThanOrEqual(1.5);
						expect(y, way).toBeGreaterThanOrEqual(-1);
						expect(y, way).toBeLessThanOrEqual(2.25);
					}
				}
			}
		}
	);

	it('know a sharp turn from a round one', () => {
		expect(strokesOf('0,0 1,2! .5,-1; 0,1 1,1')).toEqual([
			[
				{ x: 0, y: 0, isSharp: false },
				{ x: 1, y: 2, isSharp: true },
				{ x: 0.5, y: -1, isSharp: false }
			],
			[
				{ x: 0, y: 1, isSharp: false },
				{ x: 1, y: 1, isSharp: false }
			]
		]);
	});
});

describe('a hand that nobody has', () => {
	it('writes its letters alike, and otherwise than another hand', () => {
		const hands = Array.from({ length: 6 }, (_, n) => inventHand(new Random(40 + n)));
		const [own, others]: [number[], number[]] = [[], []];
		for (const character of 'ad4Q') {
			const letters = hands.map((hand) => [1, 2].map((seed) => drawn(hand, character, seed).ink));
			letters.forEach(([one, again], n) => {
				own.push(differ(one!, again!));
				for (const [other] of letters.slice(n + 1)) others.push(differ(one!, other!));
			});
		}
		const mean = (values: number[]) => values.reduce((a, b) => a + b, 0) / values.length;
		expect(mean(own)).toBeLessThan(0.75 * mean(others));
	});

	it('sets capitals on the line, as high as fonts are set to, and lets a y hang below it', () => {
		for (let seed = 0; seed < 20; seed++) {
			const hand = inventHand(new Random(seed));
			const capital = rowsOf(drawn(hand, 'H', 1).ink);
			expect((BASE - capital.top) / SIZE).toBeGreaterThan(0.35);
			expect((BASE - capital.top) / SIZE).toBeLessThan(1.05);
			expect(Math.abs(capital.bottom - BASE)).toBeLessThan(0.2 * SIZE);
			expect(rowsOf(drawn(hand, 'y', 1).ink).bottom).toBeGreaterThan(BASE + 0.05 * SIZE);
		}
	});

	it('is as large for sizes that were enlarged before', () => {
		const [plain, enlarged] = [1, 2].map((by) => inventHand(new Random(7), by));
		const c = createCanvas(WIDTH, HEIGHT).getContext('2d');
		const width = plain!.draw(c, 'n', SIZE, new Random(1))!;
		expect(enlarged!.draw(c, 'n', 2 * SIZE, new Random(1))).toBeCloseTo(width, 6);
	});

	it('has no letters that nobody told it, and draws nothing for them', () => {
		const { width, ink } = drawn(inventHand(new Random(3)), 'ß', 1);
		expect(width).toBeNull();
		expect(ink.includes(true)).toBe(false);
	});
});
