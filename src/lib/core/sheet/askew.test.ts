import { describe, expect, it } from 'vitest';
import { fullPage, type Take } from '../../../../demo/generator/fullPage';
import { printedPage } from '../../../../demo/generator/printedPage';
import { specimenPage } from '../../../../bench/situations';
import { effectiveSettings, flattenedAlong } from '../page/effective';
import { analysePicture } from '../page/preparePage';
import type { Plane } from '../raster/picture';
import { DEFAULT_TONE } from '../tone/tone';
import { degreesOf, leaning, shouldStraighten, straightened } from './askew';
import { flatten } from './flatten';
import { wholePicture } from './geometry';

/** Evenly spaced lines on a white page, leaning clockwise. */
function lines(degrees: number, { width = 660, height = 930, sideways = false, only = 1 } = {}): Plane {
	const data = new Uint8Array(width * height).fill(255);
	const slope = Math.tan((degrees * Math.PI) / 180);
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			const [along, across] = sideways ? [y - height / 2, width / 2 - x] : [x - width / 2, y - height / 2];
			const isShort = along > (only - 0.5) * (sideways ? height : width);
			if (!isShort && (((across - slope * along) % 30) + 30) % 30 < 3) data[y * width + x] = 0;
		}
	}
	return { width, height, data };
}

describe('leaning', () => {
	it('tells how far lines lean, either way, whether they run across the picture or down', () => {
		for (const degrees of [-3.2, -0.7, 0, 1.4, 4.5]) {
			for (const sideways of [false, true]) {
				const found = leaning(lines(degrees, { sideways }), sideways)!;
				expect(Math.abs(found.degrees - degrees)).toBeLessThan(0.15);
				expect(shouldStraighten(found)).toBe(degrees !== 0);
			}
		}
	});

	it('is not sure where the parts of a page lean differently, and says nothing of an empty one', () => {
		const fan = lines(0);
		const other = lines(2.5);
		for (let y = 0; y < fan.height / 2; y++) {
			const row = y * fan.width;
			fan.data.set(other.data.subarray(row, row + fan.width), row);
		}
		const found = leaning(fan, false);
		expect(found === null || !shouldStraighten(found)).toBe(true);
		expect(leaning(lines(0, { only: -1 }), false)).toBeNull();
	});

	it('says nothing of what is dark all over, and does not look at every grain of it', () => {
		const noise = lines(0);
		for (let i = 0; i < noise.data.length; i++) noise.data[i] = (i * 7919) % 256;
		expect(leaning(noise, false)).toBeNull();
	});
});

describe('straightened', () => {
	it('keeps the size of the sheet, unless ink would lie outside: then it holds the whole picture', () => {
		const empty = lines(0, { only: -1 });
		const same = straightened(empty, 2, 1320, 1860);
		expect(degreesOf(same)).toBeCloseTo(2, 6);
		expect(Math.hypot(same[1][0] - same[0][0], same[1][1] - same[0][1])).toBeCloseTo(1320, 6);
		for (let x = 0; x < 20; x++) empty.data[x] = 0;
		const [a, b, c, d] = straightened(empty, 2, 1320, 1860);
		for (const [x, y] of wholePicture(1320, 1860)) {
			for (const [p, q] of [
				[a, b],
				[b, c],
				[c, d],
				[d, a]
			] as const) {
				expect((q[0] - p[0]) * (y - p[1]) - (q[1] - p[1]) * (x - p[0])).toBeGreaterThan(-1e-6);
			}
		}
	});
});

describe('a scan that lies askew', () => {
	const page = { id: 'p', source: 's', sourcePage: 0, corners: null, turn: null, tone: null };

	it.each(['two-tone scan', 'grey scan', 'colour scan'] as Take[])(
		'is made level as a %s, and stays a whole picture',
		(take) => {
			const seed = 7003;
			const drawn = printedPage({ seed, kind: 'text', size: [1000, 1414], lines: 40 });
			const { picture, askew } = fullPage(drawn, take, seed);
			expect(Math.abs(askew!)).toBeGreaterThan(0.5);
			const facts = analysePicture(picture);
			expect(facts.outline.corners).toEqual(wholePicture(picture.width, picture.height));
			expect(Math.abs(degreesOf(facts.straight!) - askew!)).toBeLessThan(0.2);
			// Flattened along it, nothing leans any more.
			const { corners } = effectiveSettings(page, facts, DEFAULT_TONE);
			const level = flatten(picture, corners, picture.width, picture.height);
			expect(analysePicture(level).straight).toBeUndefined();
		}
	);

	it('is left to the person who set its corners, and to whoever lies straight', () => {
		const { picture } = fullPage(specimenPage(7001, 5).picture, 'grey scan', 7001);
		const facts = { ...analysePicture(picture), straight: wholePicture(8, 8) };
		const corners = wholePicture(picture.width, picture.height);
		expect(flattenedAlong(page, facts)).toEqual(facts.straight);
		expect(flattenedAlong({ ...page, corners }, facts)).toEqual(corners);
		expect(flattenedAlong({ ...page, half: 0 }, facts)).not.toEqual(facts.straight);
	});
});
