import { createCanvas } from '@napi-rs/canvas';
import { describe, expect, it } from 'vitest';
import { Random } from '../demo/generator/random';
import type { Box } from '../src/lib/core/reading/pieces';
import { drawFrame, seenInFrame } from './frames';

const SIZE = 36;
const [WIDTH, HEIGHT] = [320, 200];
const SEEDS = Array.from({ length: 40 }, (_, i) => i + 1);

/** Two letters of straight strokes above a line of them, and what a hand draws around the two. */
function framed(seed: number) {
	const c = createCanvas(WIDTH, HEIGHT).getContext('2d');
	c.fillStyle = '#fff';
	c.fillRect(0, 0, WIDTH, HEIGHT);
	c.strokeStyle = '#111';
	c.lineWidth = 3;
	const letter = (x: number, y: number) => {
		c.moveTo(x, y);
		c.lineTo(x + 9, y + 26);
		c.lineTo(x + 18, y);
		c.moveTo(x + 3, y + 14);
		c.lineTo(x + 15, y + 14);
	};
	for (const x of [120, 150]) letter(x, 70);
	// The line below tells how large letters are.
	for (let x = 30; x < 280; x += 30) letter(x, 150);
	c.stroke();
	const box: Box = [118, 68, 170, 98];
	const ink = () => {
		const { data } = c.getImageData(0, 0, WIDTH, HEIGHT);
		return Uint8Array.from({ length: WIDTH * HEIGHT }, (_, i) => data[4 * i]!);
	};
	const before = ink();
	const drawn = drawFrame(c, new Random(seed), box, SIZE, '#111');
	return { box, before, after: ink(), drawn };
}

describe('a frame around a label', () => {
	it('lies on all sides of it, and a line under it below', () => {
		const kinds = SEEDS.map((seed) => {
			const { box, before, after, drawn } = framed(seed);
			const added = [...after].flatMap((v, i) => (v < 128 && before[i]! >= 128 ? [i] : []));
			const [x, y] = [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2];
			const sides = [
				added.some((i) => i % WIDTH < x - 15),
				added.some((i) => i % WIDTH > x + 15),
				added.some((i) => i < (y - 8) * WIDTH),
				added.some((i) => i > (y + 8) * WIDTH)
			];
			if (drawn.around) expect(sides).toEqual([true, true, true, true]);
			else expect([sides[2], sides[3]]).toEqual([false, true]);
			return drawn.around;
		});
		expect(new Set(kinds).size).toBe(2);
	});

	it('is taken away or left, as the search for frames sees it, and what is in it is shown', () => {
		const dark: number[] = [];
		let around = 0;
		for (const seed of SEEDS) {
			const { box, after, drawn } = framed(seed);
			// What lies on the letters themselves is told from them by nobody.
			if (!drawn.around || box[1] - drawn.box[1] < 5) continue;
			around++;
			const page = { width: WIDTH, height: HEIGHT, data: after };
			const crop = seenInFrame(new Random(seed), page, box, SIZE);
			if (!crop) continue;
			expect(crop.height).toBe(32);
			// The left edge of a crop without its frame is paper.
			const edge = [...crop.data].filter((_, i) => i % crop.width < 4);
			dark.push(edge.filter((v) => v > 128).length / edge.length);
		}
		expect(dark.length).toBeGreaterThan(0.8 * around);
		expect(dark.filter((share) => share < 0.02).length).toBeGreaterThan(0.25 * dark.length);
		expect(dark.filter((share) => share > 0.05).length).toBeGreaterThan(0.15 * dark.length);
	});

	it('that is not there is not found', () => {
		const { box, before } = framed(1);
		expect(seenInFrame(new Random(1), { width: WIDTH, height: HEIGHT, data: before }, box, SIZE)).toBeNull();
	});
});
