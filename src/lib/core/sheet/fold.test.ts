import { createCanvas } from '@napi-rs/canvas';
import { describe, expect, it } from 'vitest';
import { situationSpec, specimenPage } from '../../../../bench/situations';
import { fromCanvas } from '../../../../demo/generator/fromCanvas';
import { blur } from '../../../../demo/generator/light';
import { photograph } from '../../../../demo/generator/photograph';
import { Random } from '../../../../demo/generator/random';
import { testPage, testPhotograph } from '../../../../tests/support/pictures';
import { analysePicture } from '../page/preparePage';
import type { Picture } from '../raster/picture';
import { findFold, firstHalf, foldSide, splitInMiddle } from './fold';
import { distance, overlap, wholePicture } from './geometry';
import type { Turn } from './turn';

/** Straw on leaves of all shades, all of it lying flat, with a dark post before it from top to bottom. */
function straw(seed: number, [width, height]: readonly [number, number]): Picture {
	const random = new Random(seed);
	const c = createCanvas(width, height).getContext('2d');
	c.fillStyle = '#6a6450';
	c.fillRect(0, 0, width, height);
	const lay = (count: number, shade: readonly [number, number], [long, thick]: readonly [number, number]) => {
		for (let k = 0; k < count; k++) {
			const light = random.between(...shade);
			c.fillStyle = `rgb(${light}, ${0.8 * light}, ${0.5 * light})`;
			c.beginPath();
			const [x, y] = [
				random.next() * width,
				(height * (random.whole(0, 15) + random.between(0.3, 0.5))) / 15
			];
			c.ellipse(x, y, random.between(0.4, 1) * long, random.between(0.4, 1) * thick, 0, 0, 7);
			c.fill();
		}
	};
	lay(500, [60, 250], [40, 16]);
	lay(160, [20, 60], [60, 3]);
	c.fillStyle = 'rgb(0 0 0 / 0.5)';
	c.fillRect(width / 2 - 6, 0, 12, height);
	const picture = fromCanvas(c, width, height);
	blur(picture, 1);
	return picture;
}

const pages = [1, 2].map((seed) => testPage(seed, { paper: 'A5' }).picture);

describe('an open notebook', () => {
	it.each([
		['on wood', { seed: 11, size: [1600, 1200] as const }],
		['lying sideways', { seed: 12, lies: 90 as const, desk: 'dark' as const }],
		['on a white table, where each page looks like a sheet', { seed: 13, desk: 'white' as const }],
		['upside down, seen askew', { seed: 14, lies: 180 as const, tilt: 15, size: [1600, 1200] as const }]
	])('becomes two pages: %s', (_, spec) => {
		const { picture, halves } = testPhotograph(
			{ picture: pages[0]!, labels: [] },
			{
				...spec,
				opposite: pages[1]!
			}
		);
		const { spread } = analysePicture(picture);
		expect(spread?.confidence).toBeGreaterThan(0.5);
		for (const truth of halves!) {
			const best = Math.max(...spread!.halves.map((found) => overlap(found, truth)));
			expect(best).toBeGreaterThan(0.96);
		}
	});

	// Perspective, or the fold lying higher than the rest, bends the outer sides where they meet the fold.
	it.each([
		['on a white table', 'white on white', 192050, [1200, 1600], 180],
		['half of it in a shadow', 'hard shadow', 192173, [1200, 1600], 90],
		['in steep perspective', 'keystone', 191394, [1200, 1600], 180]
	] as const)('becomes two pages whose sides are not in line: %s', (_, situation, seed, size, lies) => {
		const [left, opposite] = [seed, seed + 1].map((s) => specimenPage(s, 5, { paper: 'A5' }).picture);
		const { picture, halves } = photograph(left!, {
			...situationSpec(situation, seed, size),
			lies,
			opposite
		});
		const { spread } = analysePicture(picture);
		for (const truth of halves!) {
			expect(Math.max(...spread!.halves.map((found) => overlap(found, truth)))).toBeGreaterThan(0.95);
		}
	});

	it('is not seen in single pages, upright or lying', () => {
		for (const seed of [3, 4, 5]) {
			const { picture, corners } = testPhotograph(testPage(seed), { seed, lies: seed % 2 ? 90 : 0 });
			expect(findFold(picture, corners)).toBeNull();
		}
	});

	it('is not seen in straw behind a post, which is no paper', () => {
		let cut = 0;
		for (const seed of [21, 22, 23, 24, 25, 26]) {
			const picture = straw(seed, [1000, 640]);
			if (findFold(picture, wholePicture(picture.width, picture.height), true)) cut++;
		}
		expect(cut).toBe(0);
	});

	it('is not seen in a page of lines that was folded across for an envelope', () => {
		const { picture } = testPage(6);
		const data = Uint8Array.from(picture.data);
		const middle = picture.height / 2;
		for (let y = 0; y < picture.height; y++) {
			const k = 1 - 0.25 * Math.exp(-Math.abs(y - middle) / (0.02 * picture.height));
			for (
				let i = y * picture.width * picture.channels;
				i < (y + 1) * picture.width * picture.channels;
				i++
			) {
				data[i] = data[i]! * k;
			}
		}
		const shot = testPhotograph({ picture: { ...picture, data }, labels: [] }, { seed: 6 });
		expect(findFold(shot.picture, shot.corners)).toBeNull();
	});
});

describe('splitInMiddle', () => {
	it('cuts where perspective puts the middle: nearer to the farther side', () => {
		const { stacked, halves } = splitInMiddle(
			[
				[100, 100],
				[900, 200],
				[900, 500],
				[100, 600]
			],
			{ width: 1000, height: 700 }
		);
		expect(stacked).toBe(false);
		const fold = halves[0][1];
		expect(fold).toEqual(halves[1][0]);
		expect(distance([100, 100], fold)).toBeGreaterThan(distance(fold, [900, 200]));
	});
});

describe('firstHalf', () => {
	// Where the first half lies in the picture, and where the turn brings it.
	it.each<[boolean, Turn, 0 | 1]>([
		[false, 0, 0],
		[false, 180, 1],
		[false, 90, 0],
		[false, 270, 1],
		[true, 0, 0],
		[true, 180, 1],
		[true, 90, 1],
		[true, 270, 0]
	])('stacked %s, turned %i: half %i', (stacked, turn, half) => {
		expect(firstHalf(stacked, turn)).toBe(half);
	});

	it('the fold is the side that the halves share', () => {
		for (const stacked of [false, true]) {
			const opposite = foldSide(0, stacked);
			expect(foldSide(1, stacked)).toBe((opposite + 2) % 4);
		}
	});
});
