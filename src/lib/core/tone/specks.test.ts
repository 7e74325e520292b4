import { describe, expect, it } from 'vitest';
import { removeSpecks } from './specks';

/** A white page with black rectangles `[x, y, width, height]`. */
function page(...marks: readonly (readonly [number, number, number, number])[]) {
	const [width, height] = [120, 80];
	const ink = new Uint8Array(width * height);
	const data = new Uint8Array(width * height).fill(255);
	for (const [x0, y0, w, h] of marks) {
		for (let y = y0; y < y0 + h; y++) {
			for (let x = x0; x < x0 + w; x++) {
				ink[y * width + x] = 1;
				data[y * width + x] = 20;
			}
		}
	}
	return { ink, grey: { width, height, data }, at: (x: number, y: number) => ink[y * width + x] };
}

describe('removeSpecks', () => {
	it('drops what is too small, and keeps what hangs together over a corner', () => {
		const { ink, grey, at } = page([10, 10, 1, 2], [50, 10, 3, 3], [53, 13, 3, 3]);
		removeSpecks(ink, grey, 12);
		expect([at(10, 10), at(50, 10), at(55, 15)]).toEqual([0, 1, 1]);
	});

	it('drops what is nowhere dark', () => {
		const { ink, grey, at } = page([10, 10, 5, 5], [50, 10, 5, 5]);
		for (let i = 0; i < grey.data.length; i++) if (ink[i] && i % 120 < 40) grey.data[i] = 180;
		removeSpecks(ink, grey, 4, 120);
		expect([at(12, 12), at(52, 12)]).toEqual([0, 1]);
	});

	it('keeps a full stop beside its word and drops a dot far from any writing', () => {
		const { ink, grey, at } = page([10, 10, 20, 8], [34, 15, 3, 3], [95, 60, 3, 3]);
		removeSpecks(ink, grey, 4, 255, { area: 40, cell: 20 });
		expect([at(15, 12), at(35, 16), at(96, 61)]).toEqual([1, 1, 0]);
	});
});
