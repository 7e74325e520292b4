import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { writingMask } from '../legibility/writingMask';
import { withoutRuling } from '../legibility/ruling';
import { measureTiles } from '../legibility/tiles';
import { below, countInk } from '../raster/below';
import { boxBlur } from '../raster/boxBlur';
import { dilate, erode } from '../raster/greyMorphology';
import { halve } from '../raster/halve';
import { inkRuns } from '../raster/inkRuns';
import type { Picture, Plane } from '../raster/picture';
import { shrink } from '../raster/shrink';
import { edgeMap } from '../sheet/edgeMap';
import { flatten } from '../sheet/flatten';
import type { Quadrilateral } from '../sheet/geometry';
import { sideLines } from '../sheet/sideLines';
import { blackAndWhite } from '../tone/blackAndWhite';
import { dropFaint } from '../tone/dropFaint';
import { evenGrey, evenLight } from '../tone/evenLight';
import { inkThreshold } from '../tone/inkThreshold';
import { estimateIllumination } from '../tone/illumination';
import { inPlainTypeScript, withKernels } from './kernels';

/** Numbers from a seed (Marsaglia's xorshift), so that a failing case can be shown by its seed. */
function numbers(seed: number): () => number {
	let x = seed | 1;
	return () => {
		x ^= x << 13;
		x ^= x >>> 17;
		x ^= x << 5;
		return (x >>> 0) / 2 ** 32;
	};
}

/** Paper in uneven light with strokes and noise on it: nothing that a page does not have. */
function page(seed: number, width: number, height: number, channels: 3 | 4 = 3): Picture {
	const next = numbers(seed);
	const data = new Uint8Array(width * height * channels);
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			const light = 120 + (100 * x) / width + 20 * next();
			const isInk = (x * 7 + y * 3) % 23 < 3 && next() < 0.8;
			for (let c = 0; c < channels; c++)
				data[(y * width + x) * channels + c] = isInk ? 40 + 30 * c : light - 6 * c;
		}
	}
	return { width, height, channels, data };
}

function plane(seed: number, width: number, height: number): Plane {
	const { data } = page(seed, width, height);
	return { width, height, data: Uint8Array.from({ length: width * height }, (_, i) => data[3 * i]!) };
}

const size = fc.record({
	seed: fc.nat(1e6),
	width: fc.integer({ min: 1, max: 75 }),
	height: fc.integer({ min: 1, max: 60 })
});
const channels = fc.constantFrom(3 as const, 4 as const);

/** Both ways give the same, to the bit. */
function same(work: () => unknown): void {
	if (!alike(work(), inPlainTypeScript(work))) expect.fail('The kernels and plain TypeScript differ.');
}

/** Samples are compared as bytes: one at a time would take minutes. */
function alike(a: unknown, b: unknown): boolean {
	if (ArrayBuffer.isView(a) && ArrayBuffer.isView(b)) {
		const bytes = (v: ArrayBufferView) => Buffer.from(v.buffer, v.byteOffset, v.byteLength);
		return a.constructor === b.constructor && bytes(a).equals(bytes(b));
	}
	if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return Object.is(a, b);
	const [x, y] = [Object.entries(a), Object.entries(b)];
	return x.length === y.length && x.every(([key, value], i) => key === y[i]![0] && alike(value, y[i]![1]));
}

describe('the kernels', () => {
	it('run here: what follows would compare plain TypeScript with itself otherwise', () => {
		expect(
			withKernels(
				() => 'fast',
				() => 'plain'
			)
		).toBe('fast');
		expect(
			inPlainTypeScript(() =>
				withKernels(
					() => 'fast',
					() => 'plain'
				)
			)
		).toBe('plain');
	});

	it('keep out of the way of work that is under way in their memory', () => {
		const inner = () =>
			withKernels(
				() => 'fast',
				() => 'plain'
			);
		expect(withKernels(inner, inner)).toBe('plain');
		expect(inner()).toBe('fast');
		expect(() =>
			withKernels(
				() => {
					throw new Error('broken');
				},
				() => 0
			)
		).toThrow('broken');
		expect(inner()).toBe('fast');
	});

	it('straighten as plain TypeScript does, inside the picture and beyond it', () => {
		const shift = fc.array(fc.double({ min: -0.2, max: 0.3, noNaN: true }), { minLength: 8, maxLength: 8 });
		fc.assert(
			fc.property(size, channels, shift, fc.integer({ min: 1, max: 70 }), (s, c, by, width) => {
				const picture = page(s.seed, s.width + 8, s.height + 8, c);
				const [w, h] = [picture.width, picture.height];
				const corners: Quadrilateral = [
					[by[0]! * w, by[1]! * h],
					[w - by[2]! * w, by[3]! * h],
					[w - by[4]! * w, h - by[5]! * h],
					[by[6]! * w, h - by[7]! * h]
				];
				same(() => flatten(picture, corners, width, Math.ceil(width * 1.3)));
			})
		);
	});

	it('straighten what no camera sees, as plain TypeScript does, and touch no memory that is not theirs', () => {
		const place = fc.tuple(fc.integer({ min: -80, max: 160 }), fc.integer({ min: -80, max: 160 }));
		fc.assert(
			fc.property(
				fc.tuple(place, place, place, place),
				fc.integer({ min: 1, max: 300 }),
				(corners, width) => {
					const picture = page(7, 90, 70);
					const work = () => {
						try {
							return flatten(picture, corners, width, Math.ceil(width / 3)).data;
						} catch (error) {
							expect(error).toBeInstanceOf(RangeError);
							return 'three corners on one line';
						}
					};
					same(work);
				}
			),
			{ numRuns: 300 }
		);
	});

	it('straighten large pictures to few pixels, from averages', () => {
		const picture = page(5, 400, 300);
		same(() =>
			flatten(
				picture,
				[
					[20, 12],
					[380, 15],
					[370, 280],
					[25, 290]
				],
				90,
				70
			)
		);
	});

	it('straighten pages of several tiles', () => {
		const picture = page(6, 700, 500);
		const corners: Quadrilateral = [
			[30, 22],
			[650, 5],
			[690, 470],
			[12, 495]
		];
		same(() => flatten(picture, corners, 601, 403));
		same(() => flatten(picture, corners, 300, 201));
	});

	it('even out the light', () => {
		fc.assert(
			fc.property(size, channels, fc.double({ min: 0.8, max: 1.2, noNaN: true }), (s, c, white) => {
				const picture = page(s.seed, s.width + 4, s.height + 4, c);
				same(() => estimateIllumination(picture));
				const light = estimateIllumination(picture);
				same(() => evenLight(picture, light, white));
				expect(evenGrey(picture, light, white)).toEqual(evenLight(picture, light, white).grey);
			})
		);
	});

	it('find the light along hard shadows', () => {
		const picture = page(9, 900, 700);
		for (let i = 0; i < picture.data.length; i++) if ((i / 3) % 900 > 400) picture.data[i]! /= 3;
		same(() => estimateIllumination(picture));
	});

	it('threshold', () => {
		fc.assert(
			fc.property(
				size,
				fc.integer({ min: 3, max: 90 }),
				fc.integer({ min: -2, max: 2 }),
				(s, window, weight) => {
					const grey = plane(s.seed, s.width, s.height);
					same(() => inkThreshold(grey, window, weight));
				}
			)
		);
		const grey = plane(3, 500, 400);
		const ink = inkThreshold(grey, 28);
		same(() => inkThreshold(grey, 28));
		expect(ink.some((v) => v === 1) && ink.some((v) => v === 0)).toBe(true);
	});

	it('find runs of ink', () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 1, max: 67 }),
				fc.array(fc.constantFrom(0, 0, 1, 1, 1), { maxLength: 900 }),
				(width, all) => {
					const height = Math.ceil(all.length / width);
					const ink = Uint8Array.from({ length: width * height }, (_, i) => all[i] ?? 1);
					same(() => inkRuns(ink, width, height));
				}
			)
		);
	});

	it('make planes and pictures smaller, and blur', () => {
		fc.assert(
			fc.property(size, channels, fc.integer({ min: 1, max: 12 }), (s, c, n) => {
				const grey = plane(s.seed, s.width, s.height);
				same(() => halve(grey));
				same(() => boxBlur({ ...grey, data: Float32Array.from(grey.data) }, n));
				const picture = page(s.seed, s.width * 3, s.height * 3, c);
				same(() => shrink(picture, Math.ceil(picture.width / n), Math.ceil(picture.height / n)));
			})
		);
	});

	it('take out ruling, faint marks and specks', () => {
		fc.assert(
			fc.property(
				size,
				fc.integer({ min: 60, max: 240 }),
				fc.integer({ min: 2, max: 9 }),
				(s, limit, reach) => {
					const grey = plane(s.seed, s.width + 2, s.height + 2);
					const { width, height } = grey;
					const dark = below(grey, limit);
					same(() => below(grey, limit));
					same(() => countInk(dark));
					same(() => withoutRuling(grey, dark, below(grey, limit + 12)));
					same(() => {
						const ink = dark.slice();
						return [dropFaint(ink, grey, reach), ink];
					});
					same(() => writingMask(grey, 2));
					expect(countInk(dark)).toBe(dark.reduce((a, b) => a + b, 0));
					expect(inkRuns(dark, width, height).length % 2).toBe(0);
				}
			)
		);
		const squared = plane(8, 400, 300);
		for (let i = 0; i < squared.data.length; i++) {
			if (i % 40 === 0 || Math.floor(i / 400) % 40 === 0) squared.data[i] = 180;
		}
		same(() => writingMask(squared, 1));
		expect(writingMask(squared, 1).ruling).toBeGreaterThan(0);
		same(() => blackAndWhite(squared, 100));
	});

	it('measure tiles', () => {
		const grey = plane(21, 600, 848);
		const half = halve(grey);
		const data = below(half, 130);
		const writing = {
			...half,
			data,
			coverage: countInk(data) / data.length,
			ruling: 0,
			marks: data,
			faint: 0,
			bare: false,
			ruled: false,
			rules: null
		};
		same(() => measureTiles(grey, writing, 72, 2));
		expect(measureTiles(grey, writing, 72, 2).ink.some((n) => n > 0)).toBe(true);
	});

	it('find the largest and the smallest around', () => {
		fc.assert(
			fc.property(size, fc.integer({ min: 1, max: 6 }), (s, radius) => {
				const grey = plane(s.seed, s.width, s.height);
				const floats = { ...grey, data: Float32Array.from(grey.data) };
				same(() => dilate(floats, radius));
				same(() => erode(floats, radius));
			})
		);
	});

	it('find the same edges but for rounding, and the same sides', () => {
		const picture = shrink(page(4, 960, 720), 480, 360);
		const [fast, plain] = [edgeMap(picture), inPlainTypeScript(() => edgeMap(picture))];
		for (const key of ['gx', 'gy'] as const) {
			fast[key].forEach((v, i) => {
				if (Math.abs(v - plain[key][i]!) > 1e-3) expect.fail(`${key} ${i}: ${v}, ${plain[key][i]}`);
			});
		}
		expect(fast.gx.some((v) => v > 1)).toBe(true);
		const [lines, expected] = [sideLines(plain), inPlainTypeScript(() => sideLines(plain))];
		for (const side of ['top', 'right', 'bottom', 'left'] as const) {
			expect(lines[side].length).toBe(expected[side].length);
			lines[side].forEach((line, i) => {
				expect(line.rho).toBeCloseTo(expected[side][i]!.rho);
				expect(line.votes).toBeCloseTo(expected[side][i]!.votes, 1);
			});
		}
	});

	it('give back memory after a large picture and go on', () => {
		const large: Plane = { width: 9000, height: 6000, data: new Uint8Array(54_000_000) };
		const half = halve(large);
		expect([half.width, half.height]).toEqual([4500, 3000]);
		same(() => halve(plane(2, 40, 30)));
		expect(
			withKernels(
				(k) => k.size,
				() => 0
			)
		).toBeLessThan(32 * 1024 * 1024);
	});
});
