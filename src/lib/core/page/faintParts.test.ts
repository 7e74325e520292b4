import { describe, expect, it } from 'vitest';
import { gaussianBlur } from '../raster/boxBlur';
import { toFloat } from '../raster/floatPlane';
import type { Plane } from '../raster/picture';
import { blackAndWhite } from '../tone/blackAndWhite';
import { withFaintParts } from './faintParts';

const [WIDTH, HEIGHT, DPI, NOISE] = [700, 800, 200, 1];
const [PEN, PENCIL, RULE] = [25, 172, 200];

function paper(): Uint8Array {
	// A little grain, the same each time.
	let x = 7;
	return Uint8Array.from({ length: WIDTH * HEIGHT }, () => {
		x = (x * 16_807) % 2_147_483_647;
		return 251 + (x % 4);
	});
}

/** Rows of letters: rings, every third with a stroke down, with soft edges as a camera leaves them. */
function write(data: Uint8Array, rows: readonly number[], grey: number): void {
	for (const row of rows) {
		for (let n = 0; n < 14; n++) {
			const [cx, cy] = [70 + 42 * n, row];
			for (let y = cy - 24; y <= cy + 14; y++) {
				for (let x = cx - 14; x <= cx + 14; x++) {
					const ring = Math.abs(Math.hypot(x - cx, y - cy) - 10);
					const stem = n % 3 === 0 && y < cy ? Math.abs(x - cx - 10) : Infinity;
					const share = Math.max(0, Math.min(1, 2.2 - Math.min(ring, stem)));
					const i = y * WIDTH + x;
					data[i] = Math.min(data[i]!, Math.round(255 - share * (255 - grey)));
				}
			}
		}
	}
}

function rule(data: Uint8Array): void {
	for (let y = 40; y < HEIGHT; y += 60) {
		for (let x = 0; x < WIDTH; x++)
			for (const v of [y, y + 1]) data[v * WIDTH + x] = Math.min(data[v * WIDTH + x]!, RULE);
	}
}

const plane = (data: Uint8Array): Plane => ({ width: WIDTH, height: HEIGHT, data });
const ABOVE = [90, 150, 210, 270];
const BELOW = [450, 510, 570, 630];

function made(grey: Plane): { before: Plane; after: Plane } {
	const before = blackAndWhite(grey, DPI);
	return { before, after: withFaintParts(before, grey, NOISE, DPI) };
}

/** Pixels of ink between two rows, rules set aside. */
function inkBetween({ data }: Plane, top: number, bottom: number): number {
	let sum = 0;
	for (let i = top * WIDTH; i < bottom * WIDTH; i++) sum += Number(data[i] === 0);
	return sum;
}

describe('black and white of a page with two pens', () => {
	it.each([
		['plain', false, 1.15],
		// Of a rule, what runs through a letter is the letter's.
		['ruled', true, 1.3]
	])('keeps pencil that is much fainter than the pen beside it, on %s paper', (_, ruled, most) => {
		const data = paper();
		if (ruled) rule(data);
		write(data, ABOVE, PEN);
		write(data, BELOW, PENCIL);
		const { before, after } = made(plane(data));
		const [pen, pencil] = [inkBetween(before, 0, 350), inkBetween(after, 420, 680)];
		expect(inkBetween(before, 420, 680)).toBeLessThan(0.1 * pen);
		expect(pencil).toBeGreaterThan(0.7 * pen);
		expect(pencil).toBeLessThan(most * pen);
		expect(inkBetween(after, 0, 350)).toBe(pen);
		// Where nothing is written the rules are left out.
		expect(inkBetween(after, 690, HEIGHT)).toBe(0);
	});

	it('leaves out writing that shows through from the other side', () => {
		const back = paper();
		write(back, BELOW, 90);
		const soft = gaussianBlur(toFloat(plane(back)), 3).data;
		const data = paper().map((v, i) => Math.min(v, Math.round(soft[i]!)));
		write(data, ABOVE, PEN);
		const { before, after } = made(plane(data));
		expect(after).toBe(before);
	});

	it('leaves out the grey of a filled area', () => {
		const data = paper();
		write(data, ABOVE, PEN);
		for (let y = 450; y < 620; y++) data.fill(PENCIL, y * WIDTH + 100, y * WIDTH + 560);
		const { before, after } = made(plane(data));
		expect(inkBetween(after, 460, 610)).toBe(inkBetween(before, 460, 610));
	});

	it.each([PEN, PENCIL])('is as it was where all is written alike, in grey %i', (grey) => {
		const data = paper();
		rule(data);
		write(data, [...ABOVE, ...BELOW], grey);
		const { before, after } = made(plane(data));
		expect(inkBetween(before, 0, HEIGHT)).toBeGreaterThan(2000);
		expect(after).toBe(before);
	});

	it('is as it was where a few faint dots are no writing', () => {
		const data = paper();
		write(data, ABOVE, PEN);
		for (let n = 0; n < 5; n++) {
			for (let y = 0; y < 5; y++)
				data.fill(PENCIL, (500 + y) * WIDTH + 90 * n + 60, (500 + y) * WIDTH + 90 * n + 65);
		}
		const { before, after } = made(plane(data));
		expect(after).toBe(before);
	});
});
