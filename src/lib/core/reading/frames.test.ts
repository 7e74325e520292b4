import { describe, expect, it } from 'vitest';
import { components } from '../raster/components';
import { findFrames } from './frames';

const [W, H] = [420, 120];
const [LETTER, STROKE] = [24, 4];
type Bar = readonly [x0: number, y0: number, x1: number, y1: number];

/** The four sides of a box. */
const box = ([x0, y0, x1, y1]: Bar): Bar[] => [
	[x0, y0, x1, y0 + STROKE],
	[x0, y1 - STROKE, x1, y1],
	[x0, y0, x0 + STROKE, y1],
	[x1 - STROKE, y0, x1, y1]
];

/** Letters like an H, one after the other. */
const letters = (from: number, count: number, [top, bottom]: readonly [number, number]): Bar[] =>
	Array.from({ length: count }, (_, i) => from + 24 * i).flatMap((x): Bar[] => [
		[x, top, x + STROKE, bottom],
		[x + 14, top, x + 18, bottom],
		[x, (top + bottom) >> 1, x + 18, ((top + bottom) >> 1) + STROKE]
	]);

function framesOf(bars: readonly Bar[], gaps: readonly Bar[] = []) {
	const ink = new Uint8Array(W * H);
	const put = ([x0, y0, x1, y1]: Bar, value: number) => {
		for (let y = y0; y < y1; y++) ink.fill(value, y * W + x0, y * W + x1);
	};
	for (const bar of bars) put(bar, 1);
	for (const gap of gaps) put(gap, 0);
	const { list, labels } = components(ink, W, H);
	return findFrames(list, labels, W, LETTER, STROKE).filter((f) => f.kind === 'around');
}

const BOX: Bar = [140, 30, 240, 80];
const IN_IT = letters(156, 3, [44, 68]);

/** How much of a box was found to be one. */
function share(pixels: readonly number[], bars: readonly Bar[]): number {
	const taken = new Set(pixels);
	let [all, found] = [0, 0];
	for (const [x0, y0, x1, y1] of bars) {
		for (let y = y0; y < y1; y++) {
			for (let x = x0; x < x1; x++) {
				all++;
				if (taken.has(y * W + x)) found++;
			}
		}
	}
	return found / all;
}

describe('a box around a label', () => {
	it.each<[string, Bar[], Bar[]]>([
		['by itself', [], []],
		[
			'that a stroke through the word before it runs into',
			[[40, 54, 144, 58], ...letters(50, 3, [42, 70])],
			[]
		],
		['that the word behind it hangs together with', [[236, 60, 262, 64], ...letters(258, 5, [42, 70])], []],
		[
			'with a word before and behind it',
			[[40, 54, 144, 58], ...letters(50, 3, [42, 70]), [236, 60, 262, 64], ...letters(258, 5, [42, 70])],
			[]
		],
		['that a letter with a bowl hangs on to', [...box([237, 40, 270, 74]), ...letters(280, 4, [42, 70])], []],
		['in which a letter reaches from top to bottom', [[186, 32, 190, 78]], []],
		['whose line has a tiny gap', [], [[180, 30, 181, 34]]]
	])('%s is found, and what is in it', (_, others, gaps) => {
		const found = framesOf([...box(BOX), ...IN_IT, ...others], gaps);
		expect(found).toHaveLength(1);
		const [{ inside, pixels }] = found as [(typeof found)[0]];
		expect(inside[0]).toBeGreaterThanOrEqual(154);
		expect(inside[2]).toBeLessThanOrEqual(236);
		expect(inside[2] - inside[0]).toBeGreaterThan(60);
		expect(share(pixels, box(BOX))).toBeGreaterThan(0.85);
		expect(share(pixels, IN_IT)).toBe(0);
	});

	it('is none where a word has wide letters', () => {
		const wide = [50, 100, 150].flatMap((x) => box([x, 44, x + 30, 70]));
		expect(framesOf([...wide, [50, 66, 180, 70]])).toEqual([]);
	});
});
