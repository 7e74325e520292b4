import { describe, expect, it } from 'vitest';
import { blankPicture } from '../raster/picture';
import { wholePicture } from '../sheet/geometry';
import { DEFAULT_TONE } from '../tone/tone';
import { evenFor, lightOn } from './pageLight';

/** Of A4 at about 70 dots an inch. */
const [WIDTH, HEIGHT] = [600, 848];
/** So far the picture goes; to the right and below it the page is white. */
const SEEN = { width: 558, height: 806 };

/** A hand's hard shadow lies in the corner where the sheet runs out of its picture. */
function shadedPage() {
	const flat = blankPicture(WIDTH, HEIGHT);
	for (let y = 0, p = 0; y < HEIGHT; y++) {
		for (let x = 0; x < WIDTH; x++, p += 3) {
			const isSeen = x < SEEN.width && y < SEEN.height;
			const light = x > 0.6 * WIDTH && y > 0.6 * HEIGHT ? 0.45 : 1;
			flat.data.set(isSeen ? [236 * light, 230 * light, 215 * light] : [255, 255, 255], p);
		}
	}
	return flat;
}

describe('the light on a page', () => {
	const flat = shadedPage();
	const corners = wholePicture(WIDTH, HEIGHT);
	const inCorner = (lit: ReturnType<typeof lightOn>, name: 'greyscale' | 'black-and-white') =>
		evenFor(flat, { ...DEFAULT_TONE, name }, lit).grey.data[720 * WIDTH + 480]!;

	it('is evened out up to where the picture ends, and what would be a filled area inside of it is shadow there', () => {
		const outOfPicture = lightOn(flat, SEEN, corners);
		expect(outOfPicture.fills).toBeNull();
		expect(inCorner(outOfPicture, 'greyscale')).toBeGreaterThan(240);
		const inside = lightOn(flat, { width: WIDTH, height: HEIGHT }, corners);
		expect(inCorner(inside, 'greyscale')).toBeLessThan(160);
		// In black and white filled areas give way.
		expect(inCorner(inside, 'black-and-white')).toBeGreaterThan(240);
	});

	it('is left as it was for the eye where nobody asked for even light, and measured all the same', () => {
		const asSeen = { ...DEFAULT_TONE, name: 'colour', evenLight: false } as const;
		const even = evenFor(flat, asSeen, lightOn(flat, SEEN, corners));
		expect(even).not.toHaveProperty('data');
		expect(even.grey.data[720 * WIDTH + 480]).toBeGreaterThan(240);
	});
});
