import { describe, expect, it } from 'vitest';
import { gaussianBlur } from '../raster/boxBlur';
import { toFloat } from '../raster/floatPlane';
import {
	DPI,
	HEIGHT,
	NOISE,
	paper,
	PEN,
	PENCIL,
	plane,
	rule,
	WIDTH,
	write
} from '../../../../tests/support/letters';
import type { Plane } from '../raster/picture';
import { blackAndWhite } from '../tone/blackAndWhite';
import { withFaintParts } from './faintParts';

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
