import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bareRuling } from './bare';

const [WIDTH, HEIGHT] = [400, 560];

/** A page on which what `isDark` says is dark. */
function page(isDark: (x: number, y: number) => boolean): Uint8Array {
	return Uint8Array.from({ length: WIDTH * HEIGHT }, (_, i) =>
		Number(isDark(i % WIDTH, Math.floor(i / WIDTH)))
	);
}
const look = (isDark: (x: number, y: number) => boolean) => bareRuling(page(isDark), WIDTH, HEIGHT);
const count = (some: Uint8Array | null) => some?.reduce((sum, v) => sum + v, 0);

/** Lines of ruling, two pixels thick, at a slope; the page's edge cuts none of them. */
const ruled =
	(pitch: number, slope = 0) =>
	(x: number, y: number) =>
		(Math.round(y - slope * (x - WIDTH / 2)) + 1.5 * pitch) % pitch < 2;
const squared = (pitch: number) => (x: number, y: number) => y % pitch < 2 || x % pitch < 2;
const word = (x: number, y: number) => x >= 120 && x < 220 && y >= 203 && y < 220 && (x * 7 + y * 3) % 5 < 2;

describe('a page', () => {
	it('is bare where nothing is dark, or a few specks', () => {
		expect(count(look(() => false))).toBe(0);
		expect(count(look((x, y) => x === y && x % 40 === 0))).toBe(0);
	});

	it('is bare under printed lines and squares, straight or as it lay in the feeder', () => {
		for (const isDark of [ruled(28), ruled(28, 0.02), ruled(28, -0.012), squared(20)]) {
			const lines = look(isDark)!;
			expect(lines).not.toBeNull();
			const dark = page(isDark);
			const beside = dark.reduce((sum, v, i) => sum + Number(v && !lines[i]), 0);
			expect(beside).toBeLessThan(0.0004 * dark.length);
		}
	});

	it('is bare under ruling with a margin', () => {
		expect(look((x, y) => ruled(28)(x, y) || (x >= 60 && x < 62))).not.toBeNull();
	});

	it('is not where a word stands, with ruling or without', () => {
		expect(look(word)).toBeNull();
		expect(look((x, y) => word(x, y) || ruled(28)(x, y))).toBeNull();
		expect(look((x, y) => word(x, y) || squared(20)(x, y))).toBeNull();
	});

	it('is not where a line stands that is not printed: one alone, a table, lines that bend', () => {
		expect(look((x, y) => Math.abs(y - 300) < 2 && x > 60)).toBeNull();
		expect(look((x, y) => [100, 180, 210, 390].some((at) => Math.abs(y - at) < 2) || x === 200)).toBeNull();
		expect(look((x, y) => Math.round(y - 12 * Math.sin((x / WIDTH) * Math.PI) + 28) % 28 < 2)).toBeNull();
	});

	it('is not where any patch of writing stands, wherever that is', () => {
		const place = fc.tuple(fc.integer({ min: 10, max: 300 }), fc.integer({ min: 10, max: 500 }));
		fc.assert(
			fc.property(place, ([left, top]) => {
				const patch = (x: number, y: number) =>
					x >= left && x < left + 60 && y >= top && y < top + 22 && (x + 2 * y) % 4 < 2;
				expect(look((x, y) => patch(x, y) || ruled(28)(x, y))).toBeNull();
			}),
			{ numRuns: 25 }
		);
	});
});
