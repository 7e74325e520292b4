import { describe, expect, it } from 'vitest';
import { writingMask } from '../legibility/writingMask';
import { halve } from '../raster/halve';
import type { Plane } from '../raster/picture';
import { withoutRules } from './withoutRules';

const SIZE = { width: 800, height: 1000 };
const PITCH = 40;
const PEN = 60;
const PENCIL = 225;
const RULE = 150;

/** Zigzags as high as letters, between rules. */
function page({ ruled }: { ruled: boolean }): { plane: Plane; labels: Uint8Array } {
	const data = new Uint8Array(SIZE.width * SIZE.height).fill(255);
	const labels = new Uint8Array(data.length);
	if (ruled) {
		for (let y = PITCH; y < SIZE.height; y += PITCH) {
			data.fill(RULE, y * SIZE.width, (y + 2) * SIZE.width);
		}
	}
	for (let line = 3; line < 20; line++) {
		const grey = line < 14 ? PEN : PENCIL;
		for (let x = 100; x < 600; x++) {
			const y = line * PITCH - 4 - Math.abs((x % 32) - 16);
			for (let v = y; v < y + 4; v++) {
				data[v * SIZE.width + x] = grey;
				labels[v * SIZE.width + x] = Number(grey === PEN);
			}
		}
	}
	return { plane: { ...SIZE, data }, labels };
}

describe('a page without its rules', () => {
	const seen = ({ plane, labels }: ReturnType<typeof page>) =>
		withoutRules(
			halve(plane),
			writingMask(halve(plane), 1),
			(x, y) => labels[2 * (y * SIZE.width + x)] === 1
		);
	const at = (plane: Plane, x: number, y: number) => plane.data[(y >> 1) * plane.width + (x >> 1)]!;

	it('has bare paper where they were, between one line of writing and the next', () => {
		const ruled = page({ ruled: true });
		const half = halve(ruled.plane);
		const without = seen(ruled);
		expect(at(half, 700, 10 * PITCH)).toBe(RULE);
		expect([3, 8, 13, 20].map((line) => at(without, 700, line * PITCH))).toEqual([255, 255, 255, 255]);
	});

	it('keeps writing as it is, with pencil that is too faint to be ink', () => {
		const ruled = page({ ruled: true });
		const half = halve(ruled.plane);
		const without = seen(ruled);
		for (const [line, grey] of [
			[6, PEN],
			[16, PENCIL]
		] as const) {
			const y = line * PITCH - 18;
			expect(at(half, 128, y)).toBeLessThanOrEqual(grey + 20);
			expect(at(without, 128, y)).toBe(at(half, 128, y));
		}
	});

	it('keeps the rim, where rules are not told, and what has none stays as it is', () => {
		const ruled = page({ ruled: true });
		expect(at(seen(ruled), 2, 10 * PITCH)).toBe(RULE);
		const plain = page({ ruled: false });
		expect(Buffer.compare(seen(plain).data, halve(plain.plane).data)).toBe(0);
	});
});
