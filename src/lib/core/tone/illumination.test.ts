import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blankPicture } from '../raster/picture';
import { inPlainTypeScript } from '../kernels/kernels';
import { evenGrey } from './evenLight';
import { estimateIllumination } from './illumination';

const WIDTH = 820;
const HEIGHT = 1160;

/** Paper under light that depends on the place, 0 to 1, with `ink` on it. */
function lit(
	lightAt: (x: number, y: number) => number,
	ink: (x: number, y: number) => boolean = () => false,
	[width, height]: readonly [number, number] = [WIDTH, HEIGHT]
) {
	const page = blankPicture(width, height);
	for (let y = 0, p = 0; y < height; y++) {
		for (let x = 0; x < width; x++, p += 3) {
			const value = (ink(x, y) ? 40 : 230) * lightAt(x, y);
			page.data[p] = value;
			page.data[p + 1] = value * 0.95;
			page.data[p + 2] = value * 0.85;
		}
	}
	return page;
}

/** The darkest of the mean greys of 10 x 10 pixels. */
function darkest(data: Uint8Array, wanted: (x: number, y: number) => boolean): number {
	let least = 255;
	for (let y = 0; y + 10 <= HEIGHT; y += 10) {
		for (let x = 0; x + 10 <= WIDTH; x += 10) {
			if (!wanted(x, y)) continue;
			let sum = 0;
			for (let v = y; v < y + 10; v++) for (let u = x; u < x + 10; u++) sum += data[v * WIDTH + u]!;
			least = Math.min(least, sum / 100);
		}
	}
	return least;
}

describe('the light on the paper', () => {
	it('is found where a narrow part of a shadow falls on the rim, on whichever side', () => {
		fc.assert(
			fc.property(
				fc.constantFrom('left', 'right', 'top', 'bottom'),
				fc.integer({ min: 24, max: 60 }),
				fc.double({ min: 0.35, max: 0.7, noNaN: true }),
				(side, reach, dark) => {
					const fromRim = {
						left: (x: number) => x,
						right: (x: number) => WIDTH - 1 - x,
						top: (_: number, y: number) => y,
						bottom: (_: number, y: number) => HEIGHT - 1 - y
					}[side]!;
					// Half light over some 20 pixels.
					const light = (x: number, y: number) =>
						dark + (1 - dark) * Math.min(1, Math.max(0, (fromRim(x, y) - reach) / 20));
					const page = lit(light);
					const grey = evenGrey(page, estimateIllumination(page));
					// Where the light changes, a trace may stay.
					const inShadow = (x: number, y: number) => fromRim(x, y) < 10 && fromRim(x + 9, y + 9) < 10;
					const inLight = (x: number, y: number) => fromRim(x + 5, y + 5) > reach + 40;
					expect(darkest(grey.data, inShadow)).toBeGreaterThan(225);
					expect(darkest(grey.data, inLight)).toBeGreaterThan(250);
				}
			),
			{ numRuns: 12 }
		);
	});

	it('does not take a filled drawing in the middle of the page for a shadow', () => {
		const page = lit(
			() => 0.9,
			(x, y) => Math.hypot(x - 400, y - 500) < 20
		);
		const grey = evenGrey(page, estimateIllumination(page));
		expect(grey.data[500 * WIDTH + 400]).toBeLessThan(110);
		expect(darkest(grey.data, (x, y) => Math.hypot(x - 395, y - 495) > 40)).toBeGreaterThan(250);
	});

	it('is the same on a hard shadow with and without kernels', () => {
		const page = lit(
			(x, y) => (x + 0.4 * y > 1000 ? 0.45 : 1),
			() => false,
			[1240, 1754]
		);
		const [fast, plain] = [estimateIllumination(page), inPlainTypeScript(() => estimateIllumination(page))];
		// Fine light was looked for: there are more blocks than the usual ones.
		expect(fast.green.height).toBeGreaterThan(200);
		for (const channel of ['red', 'green', 'blue'] as const) {
			const differs = fast[channel].data.findIndex((v, i) => v !== plain[channel].data[i]);
			expect(differs).toBe(-1);
		}
	});
});
