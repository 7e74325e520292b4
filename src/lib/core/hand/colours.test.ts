import { describe, expect, it } from 'vitest';
import type { Picture, Plane } from '../raster/picture';
import type { Illumination } from '../tone/illumination';
import { measureColours } from './colours';

const [WIDTH, HEIGHT] = [80, 60];
type Rgb = readonly [number, number, number];
const WHITE: Rgb = [230, 230, 230];
const LAMP: Rgb = [240, 205, 160];

/** What an ink leaves of the light, in red, green and blue. */
const BLUE: Rgb = [0.15, 0.3, 0.75];
const BLACK: Rgb = [0.12, 0.12, 0.12];
const PENCIL: Rgb = [0.55, 0.55, 0.55];
const RED: Rgb = [0.8, 0.2, 0.25];

/** A page in some light with strokes of an ink, and what is measured on it. */
function measured(ink: Rgb, light: Rgb, isInk = (x: number, y: number) => x % 8 < 4 && y % 8 < 4) {
	const data = new Uint8Array(3 * WIDTH * HEIGHT);
	const writing: Plane = { width: WIDTH / 2, height: HEIGHT / 2, data: new Uint8Array((WIDTH * HEIGHT) / 4) };
	for (let y = 0; y < HEIGHT; y++) {
		for (let x = 0; x < WIDTH; x++) {
			for (let c = 0; c < 3; c++) {
				data[3 * (y * WIDTH + x) + c] = Math.round(light[c]! * (isInk(x, y) ? ink[c]! : 1));
			}
			if (isInk(x, y)) writing.data[(y >> 1) * writing.width + (x >> 1)] = 1;
		}
	}
	const flat: Picture = { width: WIDTH, height: HEIGHT, channels: 3, data };
	const evenly = (value: number) => ({ width: 4, height: 3, data: new Float32Array(12).fill(value) });
	const lit: Illumination = { red: evenly(light[0]), green: evenly(light[1]), blue: evenly(light[2]) };
	return measureColours(flat, lit, writing);
}

describe('the colour of ink', () => {
	it('is that of what it takes away: blue ink takes red, red ink takes blue and green', () => {
		const [blue, red, black] = [BLUE, RED, BLACK].map((ink) => measured(ink, WHITE)) as [
			ReturnType<typeof measured>,
			ReturnType<typeof measured>,
			ReturnType<typeof measured>
		];
		expect(blue.red).toBeGreaterThan(0.45);
		expect(blue.blue).toBeLessThan(0.15);
		expect(red.red).toBeLessThan(0.15);
		expect(red.blue).toBeGreaterThan(0.35);
		expect([black.red, black.blue]).toEqual([0.333, 0.333]);
	});

	it('is the same in the light of a lamp, while the paper looks otherwise', () => {
		for (const ink of [BLUE, RED, BLACK, PENCIL]) {
			const [day, evening] = [measured(ink, WHITE), measured(ink, LAMP)];
			expect(Math.abs(day.red - evening.red)).toBeLessThan(0.02);
			expect(Math.abs(day.blue - evening.blue)).toBeLessThan(0.02);
			expect(Math.abs(day.dark - evening.dark)).toBeLessThan(0.05);
		}
		const { paper } = measured(BLACK, LAMP);
		paper.forEach((value, c) => expect(value).toBeCloseTo(LAMP[c]! / 255, 1));
		expect(paper[2]).toBeLessThan(paper[0]);
	});

	it('is darker of a pen than of a pencil, as the logarithm of what is left', () => {
		expect(measured(BLACK, WHITE).dark).toBeCloseTo(-Math.log(0.12), 1);
		expect(measured(PENCIL, WHITE).dark).toBeCloseTo(-Math.log(0.55), 1);
	});

	it('is grey where there is no ink, or nothing but soft edges', () => {
		const none = measured(BLUE, WHITE, () => false);
		expect([none.red, none.blue, none.dark]).toEqual([0.333, 0.333, 0]);
		const soft = measured([0.85, 0.9, 0.95], WHITE);
		expect([soft.red, soft.blue, soft.dark]).toEqual([0.333, 0.333, 0]);
	});
});
