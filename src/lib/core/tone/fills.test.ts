import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { evenFor } from '../page/pageLight';
import { blankPicture, type Picture } from '../raster/picture';
import { findFills } from './fills';
import { finish } from './finish';
import { estimateIllumination } from './illumination';

/** Of A4 at about 100 dots an inch: 4 pixels a millimetre. */
const [WIDTH, HEIGHT] = [840, 1188];
const PAPER = [236, 230, 215] as const;
const BLUE = [70, 100, 180] as const;

type At<T> = (x: number, y: number) => T;

/** Paper under light that depends on the place, 0 to 1, and paint over it where there is any. */
function page(light: At<number>, paint: At<readonly number[] | null> = () => null): Picture {
	const picture = blankPicture(WIDTH, HEIGHT);
	for (let y = 0, p = 0; y < HEIGHT; y++) {
		for (let x = 0; x < WIDTH; x++, p += 3) {
			const colour = paint(x, y) ?? PAPER;
			for (let c = 0; c < 3; c++) picture.data[p + c] = colour[c]! * light(x, y);
		}
	}
	return picture;
}

const inBox =
	(x0: number, y0: number, x1: number, y1: number): At<boolean> =>
	(x, y) =>
		x >= x0 && x < x1 && y >= y0 && y < y1;

function inTone(picture: Picture, name: 'colour' | 'greyscale' | 'black-and-white') {
	const tone = { name, evenLight: true, inkWeight: 0 } as const;
	const light = estimateIllumination(picture);
	const lit = { light, fills: findFills(picture, light) };
	const made = finish(picture, tone, 100, evenFor(picture, tone, lit));
	const [data, channels] = made.holds === 'colours' ? [made.picture.data, 3] : [made.plane.data, 1];
	return (x: number, y: number) => [
		...data.slice((y * WIDTH + x) * channels, (y * WIDTH + x + 1) * channels)
	];
}

const sloping: At<number> = (x, y) => 1 - 0.4 * (x / WIDTH) - 0.1 * (y / HEIGHT);

describe('filled areas', () => {
	it('keep one colour from end to end where the light falls off, however large they are', () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 70, max: 320 }),
				fc.integer({ min: 70, max: 500 }),
				fc.integer({ min: 100, max: 400 }),
				(width, height, left) => {
					const isInside = inBox(left, 300, left + width, 300 + height);
					const picture = page(sloping, (x, y) => (isInside(x, y) ? BLUE : null));
					const at = inTone(picture, 'colour');
					const ends = [at(left + 10, 310), at(left + width - 10, 290 + height)];
					for (const colour of ends) {
						expect(colour[2]! - colour[0]!).toBeGreaterThan(80);
						expect(Math.abs(colour[1]! - ends[0]![1]!)).toBeLessThan(12);
					}
					expect(at(left - 30, 320)).toEqual([255, 255, 255]);
					expect(findFills(picture, estimateIllumination(picture))?.isColoured).toBe(true);
				}
			),
			{ numRuns: 10 }
		);
	});

	it('keep their grey, and in black and white give way to what is written on them', () => {
		const isInside = inBox(200, 300, 600, 700);
		const isWriting = (x: number, y: number) => isInside(x, y) && y % 60 < 4 && x % 90 > 20;
		const picture = page(sloping, (x, y) =>
			isWriting(x, y) ? [25, 25, 30] : isInside(x, y) ? [140, 136, 128] : null
		);
		expect(inTone(picture, 'greyscale')(300, 390)[0]).toBeLessThan(150);
		expect(inTone(picture, 'greyscale')(300, 390)[0]).toBeGreaterThan(80);
		const ink = inTone(picture, 'black-and-white');
		expect([ink(300, 390), ink(325, 422)]).toEqual([[255], [0]]);
		expect(findFills(picture, estimateIllumination(picture))?.isColoured).toBe(false);
	});

	it('are no shadows: not those that come in over the rim, however hard, and not those that end softly', () => {
		const hard = page((x, y) => (x + 0.3 * y > 700 ? 0.6 : 1));
		// A telephone held over the page: half light over 6 mm and more.
		const soft = (half: number) =>
			page((x, y) => {
				const outside = Math.max(Math.abs(x - 420) - 150, Math.abs(y - 600) - 250);
				return 0.65 + 0.35 * Math.min(1, Math.max(0, (outside + half / 2) / half));
			});
		for (const picture of [hard, soft(24), soft(60), soft(120), page(sloping)]) {
			expect(findFills(picture, estimateIllumination(picture))).toBeNull();
		}
	});

	it('are no shadow beside a corner that is out of the picture; a box there stays one', () => {
		// To the right and below the picture holds nothing, and a hard shadow lies in the corner before that.
		const isBeyond: At<boolean> = (x, y) => x > 0.93 * WIDTH || y > 0.95 * HEIGHT;
		const falling: At<number> = (x, y) => (!isBeyond(x, y) && x > 0.6 * WIDTH && y > 0.6 * HEIGHT ? 0.45 : 1);
		const white = [255, 255, 255];
		const shaded = page(falling, (x, y) => (isBeyond(x, y) ? white : null));
		const light = estimateIllumination(shaded);
		expect(findFills(shaded, light)).not.toBeNull();
		const beyond = ({ width, height }: { width: number; height: number }) =>
			Uint8Array.from({ length: width * height }, (_, i) =>
				Number(isBeyond(((i % width) * WIDTH) / width, (Math.floor(i / width) * HEIGHT) / height))
			);
		expect(findFills(shaded, light, beyond)).toBeNull();
		const isInside = inBox(120, 150, 320, 420);
		const boxed = page(falling, (x, y) => (isBeyond(x, y) ? white : isInside(x, y) ? BLUE : null));
		expect(findFills(boxed, estimateIllumination(boxed), beyond)?.isColoured).toBe(true);
	});

	it('are no sheet of paper that lies in brighter surroundings, but a map is one', () => {
		const isInside = inBox(60, 60, WIDTH - 60, HEIGHT - 60);
		const sheet = page(
			() => 1,
			(x, y) => (isInside(x, y) ? [180, 172, 150] : null)
		);
		const map = page(
			() => 1,
			(x, y) => (!isInside(x, y) ? null : x + y / 2 > 700 ? [240, 190, 110] : [150, 200, 235])
		);
		expect(findFills(sheet, estimateIllumination(sheet))).toBeNull();
		expect(findFills(map, estimateIllumination(map))?.isColoured).toBe(true);
	});
});
