import { describe, expect, it } from 'vitest';
import { components } from '../raster/components';
import { withoutCrossings } from './crossings';

const [WIDTH, HEIGHT, DPI] = [600, 400, 200];
const SQUARE = 40;

/** A page on which something is drawn over squares, whose ink is what is darker than 128. */
class Sheet {
	readonly page = { width: WIDTH, height: HEIGHT, data: new Uint8Array(WIDTH * HEIGHT).fill(255) };

	constructor(squares: boolean) {
		if (!squares) return;
		for (let x = 20; x < WIDTH; x += SQUARE) this.draw(x, 0, 2, HEIGHT, 180);
		for (let y = 20; y < HEIGHT; y += SQUARE) this.draw(0, y, WIDTH, 2, 180);
	}

	draw(x: number, y: number, width: number, height: number, grey = 40): this {
		for (let v = y; v < y + height; v++) this.page.data.fill(grey, v * WIDTH + x, v * WIDTH + x + width);
		return this;
	}

	/** Every crossing as dark as ink. */
	crossed(): this {
		for (let x = 20; x < WIDTH; x += SQUARE) {
			for (let y = 20; y < HEIGHT; y += SQUARE) this.draw(x - 1, y - 3, 4, 8, 90);
		}
		return this;
	}

	left() {
		const ink = Uint8Array.from(this.page.data, (v) => Number(v < 128));
		return withoutCrossings({ ink, ...components(ink, WIDTH, HEIGHT) }, this.page, DPI);
	}
}

/** Letters of two strokes each, 28 pixels high, each somewhere else on the squares. */
const written = (sheet: Sheet) => {
	for (let i = 0; i < 9; i++) sheet.draw(40 + 57 * i, 126, 5, 28).draw(40 + 57 * i, 149, 18, 5);
	return sheet;
};

describe('what is left where rules cross', () => {
	it('is no ink, and the letters are left as they are', () => {
		const { list, labels, ink, stroke } = written(new Sheet(true).crossed()).left();
		expect(list).toHaveLength(9);
		expect(list.every((c) => c.y1 - c.y0 >= 28)).toBe(true);
		expect(stroke).toBeGreaterThanOrEqual(4);
		expect(labels.reduce((most, l) => Math.max(most, l))).toBe(9);
		expect(labels.filter((l) => l > 0)).toHaveLength(ink.reduce((sum, v) => sum + v));
	});

	it('may be the thin corner of a square as well', () => {
		const corner = (sheet: Sheet, breadth: number) =>
			sheet.draw(260, 260, 24, breadth, 90).draw(260, 260, breadth, 24, 90);
		expect(corner(written(new Sheet(true)), 2).left().list).toHaveLength(9);
		// A letter that is drawn like one is as broad as the others.
		expect(corner(written(new Sheet(true)), 5).left().list).toHaveLength(10);
	});

	it('is not a dot on bare paper, beside a rule, or at the end of one', () => {
		expect(new Sheet(false).draw(100, 100, 5, 5).left().list).toHaveLength(1);
		expect(new Sheet(true).draw(110, 100, 5, 5).left().list).toHaveLength(1);
		expect(new Sheet(false).draw(0, 101, 300, 2, 180).draw(298, 98, 5, 8).left().list).toHaveLength(1);
	});
});
