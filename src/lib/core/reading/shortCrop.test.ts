import { describe, expect, it } from 'vitest';
import type { Plane } from '../raster/picture';
import { MOST_WIDTH, shortCrop, SHORT_HEIGHT } from './shortCrop';

/** A page with one dark bar. */
function page(ink: number, paper: number): Plane {
	const [width, height] = [300, 200];
	const data = new Uint8Array(width * height).fill(paper);
	for (let y = 60; y < 140; y++) data.fill(ink, y * width + 100, y * width + 116);
	return { width, height, data };
}

describe('crops of short writing', () => {
	it('are of one height, paper 0 and ink 255, whatever the pen', () => {
		for (const [ink, paper] of [
			[20, 250],
			[120, 235]
		] as const) {
			const crop = shortCrop(page(ink, paper), [80, 50, 140, 150]);
			expect([crop.width, crop.height]).toEqual([Math.round((60 / 100) * SHORT_HEIGHT), SHORT_HEIGHT]);
			const row = [...crop.data.slice(16 * crop.width, 17 * crop.width)];
			expect(row.slice(0, 5)).toEqual([0, 0, 0, 0, 0]);
			expect(Math.max(...row)).toBe(255);
			// The bar stands where it stood: 20 to 36 of 60.
			const middle = row.reduce((sum, v, x) => sum + v * (x + 0.5), 0) / row.reduce((a, b) => a + b, 0);
			expect(middle / crop.width).toBeCloseTo(28 / 60, 1);
		}
	});

	it('do not blow up the grain of bare paper to ink', () => {
		const bare = page(250, 250);
		for (let i = 0; i < bare.data.length; i += 7) bare.data[i] = 240;
		expect(Math.max(...shortCrop(bare, [0, 0, 200, 100]).data)).toBeLessThan(60);
	});

	it('take what lies outside of the page for paper, and end where long lines go on', () => {
		const crop = shortCrop(page(20, 255), [-50, 150, 2000, 250]);
		expect(crop.width).toBe(MOST_WIDTH);
		expect(Math.max(...crop.data)).toBe(0);
	});
});
