import { describe, expect, it } from 'vitest';
import { testPage } from '../../../../tests/support/pictures';
import type { PageSpec } from '../../../../demo/generator/writtenPage';
import { paperNoise } from '../legibility/paperNoise';
import { writingMask } from '../legibility/writingMask';
import { halve } from '../raster/halve';
import { blackAndWhite } from './blackAndWhite';
import { evenLight } from './evenLight';
import { estimateIllumination } from './illumination';
import { measureTones, suggestTone, type ToneMeasures } from './suggestTone';
import type { Tone } from './tone';
import { toneCurve } from './toneCurve';

const base: Tone = { name: 'greyscale', evenLight: true, inkWeight: 0 };

describe('toneCurve', () => {
	const rises = (curve: Uint8Array) => curve.every((v, i) => i === 0 || v >= curve[i - 1]!);

	it('never turns lighter into darker, whatever is asked for', () => {
		for (const inkWeight of [-2, 0, 2]) {
			for (const brightness of [-2, 0, 2]) {
				for (const contrast of [-2, 0, 2]) {
					expect(
						rises(
							toneCurve({ ...base, evenLight: false, inkWeight, brightness, contrast }) ?? new Uint8Array()
						)
					).toBe(true);
				}
			}
		}
	});

	it('keeps even paper white, deepens ink with weight, spreads greys with contrast, lifts them with brightness', () => {
		const plain = toneCurve(base)!;
		expect(plain[255]).toBe(255);
		expect(toneCurve({ ...base, contrast: -2 })![255]).toBe(255);
		expect(toneCurve({ ...base, inkWeight: 2 })![128]).toBeLessThan(plain[128]!);
		const hard = toneCurve({ ...base, contrast: 2 })!;
		expect(hard[230]! - hard[100]!).toBeGreaterThan(plain[230]! - plain[100]!);
		expect(toneCurve({ ...base, brightness: 1 })![100]).toBe(plain[100]! + 14);
	});

	it('is nothing where nothing was asked for', () => {
		expect(toneCurve({ ...base, evenLight: false })).toBeNull();
	});
});

function measures(page: Partial<PageSpec>, seed = 8): ToneMeasures {
	const flat = testPage(seed, { ruling: 'plain', ...page }).picture;
	const even = evenLight(flat, estimateIllumination(flat));
	const writing = writingMask(halve(even.grey), paperNoise(flat) / 2);
	return measureTones(even, blackAndWhite(even.grey, 150), writing, { greys: 0.9, ink: 0.8 }, null);
}

describe('suggestTone', () => {
	it('black and white for firm ink, where it is allowed', () => {
		const firm = measures({});
		expect(firm.kept).toBeGreaterThan(0.95);
		expect(firm.legibility).toEqual({ colour: 0.9, greyscale: 0.9, 'black-and-white': 0.8 });
		expect(suggestTone(firm, ['greyscale', 'black-and-white']).name).toBe('black-and-white');
		expect(suggestTone(firm, ['greyscale']).name).toBe('greyscale');
	});

	it('greyscale where black and white loses strokes, and says how much', () => {
		const weak = suggestTone(
			{
				kept: 0.8,
				coloured: 0,
				fills: null,
				legibility: { colour: 0.6, greyscale: 0.6, 'black-and-white': 0.4 }
			},
			['greyscale', 'black-and-white']
		);
		expect(weak).toMatchObject({
			name: 'greyscale',
			reason: 'black and white would lose 20 % of the writing'
		});
	});

	it('a tone in which filled areas stay, where one is allowed', () => {
		const firm = measures({});
		const all = ['colour', 'greyscale', 'black-and-white'] as const;
		expect(suggestTone({ ...firm, fills: 'coloured' }, all).name).toBe('colour');
		expect(suggestTone({ ...firm, fills: 'coloured' }, ['greyscale', 'black-and-white']).name).toBe(
			'greyscale'
		);
		expect(suggestTone({ ...firm, fills: 'grey' }, all).name).toBe('greyscale');
		expect(suggestTone({ ...firm, fills: 'grey' }, ['black-and-white']).name).toBe('black-and-white');
	});

	it('colour for a page in two inks, and not for one', () => {
		const blue = testPage(8, { ruling: 'plain', ink: [20, 40, 150] }).picture;
		const red = testPage(8, { ruling: 'plain', ink: [190, 30, 30] }).picture;
		// The lower half in the other ink.
		const data = Uint8Array.from(blue.data);
		const half = 3 * blue.width * Math.floor(blue.height * 0.2);
		data.set(red.data.subarray(half), half);
		const flat = { ...blue, data };
		const even = evenLight(flat, estimateIllumination(flat));
		const writing = writingMask(halve(even.grey), paperNoise(flat) / 2);
		const two = measureTones(even, blackAndWhite(even.grey, 150), writing, { greys: 0.9, ink: 0.8 }, null);
		expect(two.coloured).toBeGreaterThan(0.1);
		expect(suggestTone(two, ['colour', 'greyscale', 'black-and-white']).name).toBe('colour');
		expect(measures({ ink: [20, 40, 150] }).coloured).toBeLessThan(0.06);
	});
});
