import { describe, expect, it } from 'vitest';
import type { Picture } from '../../src/lib/core/raster/picture';
import { PAPER_SIZES } from '../../src/lib/core/sheet/paperSize';
import { hands } from './hands';
import { writtenPage, type Block, type Layout, type PageSpec } from './writtenPage';

const SCALE = 3;
const [WIDTH, HEIGHT] = PAPER_SIZES.A4;
const LAYOUT: Layout = { left: 20, pitch: 10, size: 1, header: 15, gap: 1, number: [150, 280] };

const drawn = (blocks: readonly Block[], change: Partial<PageSpec> = {}) =>
	writtenPage({
		seed: 4,
		hand: hands()[1]!,
		paper: 'A4',
		ruling: 'plain',
		ink: [20, 20, 30],
		scale: SCALE,
		blocks,
		...change
	});

/** What bounds the ink, in millimetres, among what lies between two heights. */
function inked({ width, height, data }: Picture, from = 0, to: number = HEIGHT) {
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	for (let y = Math.round(from * SCALE); y < Math.min(height, Math.round(to * SCALE)); y++) {
		for (let x = 0; x < width; x++) {
			if (data[3 * (y * width + x)]! > 130) continue;
			[x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
		}
	}
	return [x0, y0, x1, y1].map((v) => v / SCALE);
}

const text = (...lines: string[]): Block => ({ kind: 'text', lines });

describe('a drawn page', () => {
	it('is as large as its paper, and the same again from its seed', () => {
		const { picture } = drawn([text('the weir')]);
		expect([picture.width, picture.height]).toEqual([WIDTH * SCALE, HEIGHT * SCALE].map(Math.round));
		const pixels = (page: Picture) => Buffer.from(page.data);
		const again = (seed: number) =>
			Buffer.compare(pixels(drawn([text('the weir')], { seed }).picture), pixels(picture));
		expect(again(4)).toBe(0);
		expect(again(5)).not.toBe(0);
	});

	it('has nothing on it where nothing is written', () => {
		expect(inked(drawn([]).picture)[0]).toBe(Infinity);
	});

	it('begins its lines at the margin, or where its layout says', () => {
		expect(inked(drawn([text('hills', 'hills')]).picture)[0]).toBeCloseTo(32, -0.5);
		const [left] = inked(drawn([text('hills', 'hills')], { layout: LAYOUT }).picture);
		expect(left).toBeGreaterThan(LAYOUT.left - 1);
		expect(left).toBeLessThan(LAYOUT.left + 4);
	});

	it('has its lines a pitch apart', () => {
		const one = inked(drawn([text('hills')], { layout: LAYOUT }).picture);
		const three = inked(drawn([text('hills', 'hills', 'hills')], { layout: LAYOUT }).picture);
		expect(three[3]! - one[3]!).toBeGreaterThan(18.5);
		expect(three[3]! - one[3]!).toBeLessThan(21.5);
	});

	it('leaves lines free under its header', () => {
		const top = (gap: number) => inked(drawn([text('hills')], { layout: { ...LAYOUT, gap } }).picture)[1]!;
		expect(top(2) - top(0)).toBeGreaterThan(18.5);
		expect(top(2) - top(0)).toBeLessThan(21.5);
	});

	it('writes larger where its layout says so', () => {
		const wide = (size: number) => {
			const [x0, , x1] = inked(drawn([text('hillside')], { layout: { ...LAYOUT, size } }).picture);
			return x1! - x0!;
		};
		expect(wide(1.4) / wide(1)).toBeGreaterThan(1.25);
		expect(wide(1.4) / wide(1)).toBeLessThan(1.55);
	});

	it('puts name and number where its layout says', () => {
		const { picture, nameAt } = drawn([], { layout: LAYOUT, name: 'Ilka Brandsma', pageNumber: 'p. 4' });
		expect(nameAt![1]).toBeCloseTo(LAYOUT.header / HEIGHT, 6);
		const [, above, , below] = inked(picture, 0, 100);
		expect(above).toBeGreaterThan(5);
		expect(below).toBeLessThan(20);
		const [x0, y0, , y1] = inked(picture, 200);
		expect(x0).toBeGreaterThan(148);
		expect(x0).toBeLessThan(156);
		expect(y0).toBeGreaterThan(270);
		expect(y1).toBeLessThan(284);
	});
});

describe('where labels stand', () => {
	const placed = (at: 'margin' | 'line' | 'own', more: Partial<PageSpec> = {}, indent?: number) =>
		drawn([{ kind: 'label', text: 'Q3', question: '3', at, ...(indent ? { indent } : {}) }, text('gypsy')], {
			layout: LAYOUT,
			...more
		});
	const x = (page: ReturnType<typeof drawn>) => page.labels[0]!.x * WIDTH;

	it('is in the margin, so far from the edge, but never right of where lines begin', () => {
		expect(x(placed('margin', { labelFrom: 7 }))).toBeCloseTo(7, 6);
		expect(x(placed('margin', { labelFrom: 35 }))).toBeCloseTo(LAYOUT.left, 6);
	});

	it('is at the start of a line, indented where that is asked for', () => {
		expect(x(placed('line'))).toBeCloseTo(LAYOUT.left, 6);
		expect(x(placed('line', {}, 8))).toBeCloseTo(LAYOUT.left + 8, 6);
	});

	it('is in a line of its own: the text begins one below', () => {
		const beside = inked(placed('line').picture);
		const own = placed('own');
		expect(x(own)).toBeCloseTo(LAYOUT.left, 6);
		const [, , , bottom] = inked(own.picture);
		expect(bottom! - beside[3]!).toBeGreaterThan(8.5);
		expect(bottom! - beside[3]!).toBeLessThan(11.5);
	});

	it('is told with what it stands for, above its letters', () => {
		const [label] = placed('line').labels;
		expect(label).toMatchObject({ text: 'Q3', question: '3' });
		const [, top] = inked(placed('line').picture);
		expect(Math.abs(label!.y * HEIGHT - top!)).toBeLessThan(5);
	});
});

describe('a printed margin', () => {
	/** Where a red line runs down the paper, in millimetres; null without one. */
	const marginAt = (layout?: Layout) => {
		const { width, height, data } = drawn([], { ruling: 'ruled', ...(layout ? { layout } : {}) }).picture;
		const y = Math.round(height / 2) + 4;
		for (let x = 0; x < width; x++) {
			const i = 3 * (y * width + x);
			if (data[i]! - data[i + 1]! > 25) return x / SCALE;
		}
		return null;
	};

	it('ends before the writing, if there is room for one', () => {
		expect(marginAt()).toBeCloseTo(28, -0.5);
		expect(marginAt({ ...LAYOUT, left: 38 })).toBeCloseTo(35, -0.5);
		expect(marginAt({ ...LAYOUT, left: 15 })).toBeNull();
	});
});
