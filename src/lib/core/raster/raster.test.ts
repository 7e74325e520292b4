import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { binomialBlur } from './binomialBlur';
import { boxBlur, gaussianBlur } from './boxBlur';
import { closing } from './greyMorphology';
import { enlarge } from './enlarge';
import { halve } from './halve';
import { luma } from './luma';
import { median, nth, percentile } from './percentile';
import { blankPicture } from './picture';
import { shrink, shrinkTo } from './shrink';

const plane = fc
	.tuple(fc.integer({ min: 1, max: 9 }), fc.integer({ min: 1, max: 9 }))
	.chain(([width, height]) =>
		fc
			.uint8Array({ minLength: width * height, maxLength: width * height })
			.map((data) => ({ width, height, data }))
	);

describe('boxBlur', () => {
	it('is the mean of the window that lies inside the plane', () => {
		fc.assert(
			fc.property(plane, fc.integer({ min: 1, max: 6 }), ({ width, height, data }, radius) => {
				const blurred = boxBlur({ width, height, data: Float32Array.from(data) }, radius);
				for (let y = 0; y < height; y++) {
					for (let x = 0; x < width; x++) {
						let across = 0;
						let rows = 0;
						for (let v = Math.max(0, y - radius); v <= Math.min(height - 1, y + radius); v++) {
							let sum = 0;
							let n = 0;
							for (let u = Math.max(0, x - radius); u <= Math.min(width - 1, x + radius); u++, n++) {
								sum += data[v * width + u]!;
							}
							across += sum / n;
							rows++;
						}
						expect(blurred.data[y * width + x]).toBeCloseTo(across / rows, 2);
					}
				}
			})
		);
	});

	it('spreads a point like a Gaussian of the given width', () => {
		const size = 61;
		const data = new Float32Array(size * size);
		data[30 * size + 30] = 1000;
		const { data: out } = gaussianBlur({ width: size, height: size, data }, 4);
		let variance = 0;
		let total = 0;
		for (let i = 0; i < out.length; i++) {
			total += out[i]!;
			variance += out[i]! * ((i % size) - 30) ** 2;
		}
		expect(Math.sqrt(variance / total)).toBeGreaterThan(3.5);
		expect(Math.sqrt(variance / total)).toBeLessThan(4.5);
	});
});

describe('binomialBlur', () => {
	it('spreads a point with a deviation of one pixel and keeps an even plane even, up to its border', () => {
		const point = new Float32Array(121);
		point[60] = 1;
		const { data } = binomialBlur({ width: 11, height: 11, data: point });
		const variance = data.reduce((sum, v, i) => sum + v * ((i % 11) - 5) ** 2, 0);
		expect(variance).toBeCloseTo(1);
		const even = binomialBlur({ width: 5, height: 3, data: new Float32Array(15).fill(7) });
		for (const v of even.data) expect(v).toBeCloseTo(7);
	});
});

describe('shrink', () => {
	it('keeps the mean of a picture', () => {
		const picture = blankPicture(40, 30);
		for (let i = 0; i < picture.data.length; i++) picture.data[i] = (i * 37) % 256;
		const small = shrink(picture, 10, 6);
		const mean = (data: ArrayLike<number>) => Array.from(data).reduce((a, b) => a + b, 0) / data.length;
		expect(mean(small.data)).toBeCloseTo(mean(picture.data), 0);
	});

	it('leaves a small picture as it is and refuses to enlarge', () => {
		const picture = blankPicture(10, 10);
		expect(shrinkTo(picture, 20)).toBe(picture);
		expect(() => shrink(picture, 11, 10)).toThrow(RangeError);
	});
});

describe('small things', () => {
	it('closing fills a dark spot and leaves a dark region', () => {
		const data = new Float32Array(400).fill(200);
		data[5 * 20 + 5] = 10;
		for (let y = 10; y < 20; y++) for (let x = 8; x < 20; x++) data[y * 20 + x] = 50;
		const { data: closed } = closing({ width: 20, height: 20, data }, 2);
		expect(closed[5 * 20 + 5]).toBe(200);
		expect(closed[16 * 20 + 15]).toBe(50);
	});

	it('luma weighs green most; halve averages; percentile and median count', () => {
		const green = blankPicture(2, 2, [0, 255, 0]);
		const blue = blankPicture(2, 2, [0, 0, 255]);
		expect(luma(green).data[0]).toBeGreaterThan(luma(blue).data[0]! * 4);
		expect(halve({ width: 2, height: 2, data: Uint8Array.of(0, 10, 20, 30) }).data[0]).toBe(15);
		expect(percentile([5, 0, 0, 5], 0.5)).toBe(0);
		expect(percentile([5, 0, 0, 5], 0.51)).toBe(3);
		expect(median([3, 1, 2, 10])).toBe(2.5);
	});

	it('nth finds what sorting puts at a place', () => {
		const values = fc.array(fc.integer({ min: -9, max: 9 }), { minLength: 1, maxLength: 60 });
		fc.assert(
			fc.property(values, fc.nat(), (numbers, at) => {
				const rank = at % numbers.length;
				const sorted = Float32Array.from(numbers).sort();
				expect(nth(Float32Array.from(numbers), rank)).toBe(sorted[rank]);
			})
		);
		expect(() => nth(new Float32Array(0), 0)).toThrow(RangeError);
	});
});

describe('enlarge', () => {
	it('keeps everything in its place, and the same size as it is', () => {
		const data = Uint8Array.from({ length: 12 * 9 }, (_, i) => (i * 37) % 256);
		const plane = { width: 12, height: 9, data };
		expect(enlarge(plane, 12, 9)).toEqual(plane);
		// A bar in the middle stays in the middle.
		const bar = { width: 9, height: 1, data: Uint8Array.of(0, 0, 0, 90, 90, 90, 0, 0, 0) };
		const wide = [...enlarge(bar, 12, 1).data];
		expect(wide).toEqual([...wide].reverse());
		expect(wide.slice(5, 7)).toEqual([90, 90]);
	});
});
