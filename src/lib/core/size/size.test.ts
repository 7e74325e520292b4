import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Plane } from '../raster/picture';
import { besideWriting, inkLoss } from './inkLoss';
import { bytesInFile, coarserEncodings, smallerTones, type PageWeight } from './pageWeights';
import { planSizes, WORST_LOSS } from './sizePlan';
import { DEFAULT_TONE } from '../tone/tone';

const weight = (bytes: number, loss: number): PageWeight => ({ tone: null, encoding: null, bytes, loss });

/** The least loss of all choices that stay under the limit, by trying every one. */
function bruteForce(pages: readonly PageWeight[][], limit: number): number | null {
	let best: number | null = null;
	const go = (i: number, bytes: number, loss: number): void => {
		if (bytes > limit) return;
		if (i === pages.length) {
			if (best === null || loss < best) best = loss;
			return;
		}
		for (const w of pages[i]!) if (w.loss <= WORST_LOSS) go(i + 1, bytes + w.bytes, loss + w.loss);
	};
	go(0, 0, 0);
	return best;
}

describe('planSizes', () => {
	const page = fc
		.array(
			fc.record({
				bytes: fc.integer({ min: 10, max: 900 }),
				loss: fc.double({ min: 0, max: 0.6, noNaN: true })
			}),
			{
				maxLength: 5
			}
		)
		.map((more) => [weight(1000, 0), ...more.map((m) => weight(m.bytes, m.loss))]);

	it('finds a plan whenever there is one, never over the limit, and loses at most one step more than the best', () => {
		fc.assert(
			fc.property(
				fc.array(page, { minLength: 1, maxLength: 5 }),
				fc.double({ min: 0.05, max: 1.1, noNaN: true }),
				(pages, share) => {
					const limit = share * pages.length * 1000;
					const plan = planSizes(pages, limit);
					const best = bruteForce(pages, limit);
					expect(plan.fits).toBe(best !== null);
					const chosen = plan.choice.map((c, i) => pages[i]![c]!);
					expect(plan.bytes).toBe(chosen.reduce((sum, c) => sum + c.bytes, 0));
					if (best === null) return;
					expect(plan.bytes).toBeLessThanOrEqual(limit);
					const loss = chosen.reduce((sum, c) => sum + c.loss, 0);
					expect(loss).toBeLessThanOrEqual(best + WORST_LOSS);
					expect(plan.worst).toBe(Math.max(...chosen.map((c) => c.loss)));
				}
			)
		);
	});

	it('leaves everything as prepared where it fits', () => {
		const pages = [
			[weight(1000, 0), weight(10, 0.1)],
			[weight(500, 0), weight(10, 0.1)]
		];
		expect(planSizes(pages, 1500)).toMatchObject({ fits: true, choice: [0, 0], worst: 0 });
	});

	it('takes from the page that loses least for what it saves', () => {
		const pages = [
			[weight(1000, 0), weight(400, 0.3)],
			[weight(1000, 0), weight(400, 0.02)],
			[weight(1000, 0), weight(900, 0.01)]
		];
		expect(planSizes(pages, 2450).choice).toEqual([0, 1, 0]);
	});

	it('says how small it can become where nothing fits, and makes no page unreadable for it', () => {
		const pages = [[weight(1000, 0), weight(300, 0.2), weight(5, 0.9)]];
		expect(planSizes(pages, 100)).toEqual({ fits: false, choice: [1], bytes: 300, worst: 0.2 });
	});
});

/** Strokes on white, of a darkness. */
function strokes(ink: number, every = 8): Plane {
	const [width, height] = [256, 192];
	const data = new Uint8Array(width * height).fill(255);
	for (let y = 20; y < height - 20; y++)
		for (let x = 20; x < width - 20; x++) if ((x + y) % every < 2) data[y * width + x] = ink;
	return { width, height, data };
}

describe('inkLoss', () => {
	const everywhere = new Uint8Array(256 * 192).fill(1);
	const loss = (a: Plane, b: Plane, near: Uint8Array = everywhere) => inkLoss(a, b, near);
	const page = strokes(40);
	const map = (plane: Plane, f: (v: number, i: number) => number): Plane => ({
		...plane,
		data: plane.data.map((v, i) => f(v, i))
	});

	it('is nothing for the same page, also when it is lighter or of less contrast', () => {
		expect(loss(page, page)).toBe(0);
		expect(
			loss(
				page,
				map(page, (v) => 120 + v / 2)
			)
		).toBeLessThan(0.001);
	});

	it('is all where the writing is gone, and grows with what is gone', () => {
		expect(
			loss(
				page,
				map(page, () => 255)
			)
		).toBe(1);
		const lost = (part: number) =>
			loss(
				page,
				map(page, (v, i) => (i % 256 < part * 256 ? 255 : v))
			);
		expect(lost(0.25)).toBeGreaterThan(0.2);
		expect(lost(0.5)).toBeGreaterThan(lost(0.25));
	});

	it('sees one lost line in a page that is full', () => {
		const lineGone = map(page, (v, i) => (i >= 64 * 256 && i < 128 * 256 && i % 256 > 192 ? 255 : v));
		// One tile of twelve: by the mean alone it would be 0.08.
		expect(loss(page, lineGone)).toBeGreaterThan(0.25);
	});

	it('has nothing to lose on a blank page, and refuses pages of two sizes', () => {
		const blank = map(page, () => 255);
		expect(loss(blank, page)).toBe(0);
		expect(() => loss(page, { width: 1, height: 1, data: new Uint8Array(1) })).toThrow(RangeError);
	});

	it('does not count ruling that is gone where nothing is written', () => {
		const written = strokes(40);
		const ruled = map(written, (v, i) =>
			Math.floor(i / 256) >= 128 && Math.floor(i / 256) % 16 === 0 ? 60 : v
		);
		const mask = { width: 128, height: 96, data: new Uint8Array(128 * 96) };
		mask.data.fill(1, 10 * 128, 56 * 128);
		const near = besideWriting(mask, written);
		expect(loss(ruled, written)).toBeGreaterThan(0.02);
		expect(loss(ruled, written, near)).toBe(0);
		// Two pixels of the mask are four of the page.
		expect([near[16 * 256], near[15 * 256], near[115 * 256], near[116 * 256]]).toEqual([1, 0, 1, 0]);
	});
});

describe('what is tried', () => {
	it('is coarser than the page, in resolution or in quality', () => {
		const tried = coarserEncodings(200, 'greyscale');
		expect(tried).toHaveLength(8);
		expect(coarserEncodings(120, 'greyscale').every((e) => e.dotsPerInch <= 120)).toBe(true);
		expect(coarserEncodings(200, 'black-and-white').map((e) => e.dotsPerInch)).toEqual([150, 110]);
	});

	it('holds the tones that are smaller and allowed', () => {
		const names = (
			tone: 'colour' | 'greyscale' | 'black-and-white',
			allowed?: ('greyscale' | 'black-and-white')[]
		) => smallerTones({ ...DEFAULT_TONE, name: tone }, allowed).map((t) => t.name);
		expect(names('colour')).toEqual(['greyscale', 'black-and-white']);
		expect(names('colour', ['black-and-white'])).toEqual(['black-and-white']);
		expect(names('black-and-white')).toEqual([]);
	});

	it('tells what a page weighs in its encoding, or that nobody weighed it', () => {
		const encoding = { dotsPerInch: 150, quality: 50 };
		const weights = [weight(900, 0), { ...weight(300, 0.1), encoding }];
		expect(bytesInFile(undefined, 900, weights)).toBe(900);
		expect(bytesInFile(encoding, 900, weights)).toBe(300);
		expect(bytesInFile({ ...encoding, quality: 32 }, 900, weights)).toBeNull();
		expect(bytesInFile(encoding, 900, null)).toBeNull();
	});
});
