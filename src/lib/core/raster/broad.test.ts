import { expect, it } from 'vitest';
import { broad, thicknessOf } from './broad';

const [W, H] = [60, 40];
const bars = (...all: readonly (readonly [number, number, number, number])[]) => {
	const ink = new Uint8Array(W * H);
	for (const [x0, y0, x1, y1] of all) for (let y = y0; y < y1; y++) ink.fill(1, y * W + x0, y * W + x1);
	return ink;
};

it('keeps strokes and leaves thinner lines out, also where they cross', () => {
	const stroke = bars([20, 5, 25, 35]);
	const kept = broad(bars([20, 5, 25, 35], [0, 18, 60, 20], [40, 0, 42, 40]), W, H, 4);
	expect(kept).toEqual(stroke);
});

it('tells how thick lines are, most of them', () => {
	const lines = bars([0, 10, 60, 13], [0, 30, 60, 33]);
	expect(thicknessOf(bars([0, 10, 60, 13], [0, 30, 60, 33], [5, 0, 8, 40]), lines, W, H)).toBe(3);
	expect(thicknessOf(lines, bars(), W, H)).toBe(0);
});
