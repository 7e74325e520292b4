import { describe, expect, it } from 'vitest';
import { fullPage } from '../../../../demo/generator/fullPage';
import { photograph } from '../../../../demo/generator/photograph';
import { printedPage } from '../../../../demo/generator/printedPage';
import { preparePage } from '../page/preparePage';
import { blankPicture } from '../raster/picture';
import { wholePicture } from '../sheet/geometry';
import { isTwoTone } from './twoTone';

const page = printedPage({ seed: 7, kind: 'chart', size: [1240, 1754] });
const scan = fullPage(page, 'two-tone scan', 7).picture;

describe('a photographed chart with filled bars', () => {
	it('keeps them filled in every tone, and bare paper white', () => {
		const width = 900;
		const drawn = blankPicture(width, 1273, [248, 246, 240]);
		const fill = (x0: number, y0: number, w: number, h: number) => {
			for (let y = y0; y < y0 + h; y++) drawn.data.fill(28, (y * width + x0) * 3, (y * width + x0 + w) * 3);
		};
		for (const k of [0, 1, 2]) fill(150 + 220 * k, 300 + 60 * k, 120, 500 - 60 * k);
		const shot = photograph(drawn, {
			seed: 4,
			size: [1200, 1600],
			desk: 'wood',
			fill: 0.85,
			falloff: 0.35,
			blur: 0.6
		});
		for (const name of ['greyscale', 'black-and-white'] as const) {
			const tone = { name, evenLight: true, inkWeight: 0 } as const;
			const made = preparePage(shot.picture, { corners: shot.corners, turn: shot.turn, tone });
			if (made.finished.holds === 'colours') throw new Error('expected one plane');
			const plane = made.finished.plane;
			const mean = (x0: number, y0: number, x1: number, y1: number) => {
				const scale = plane.width / width;
				let sum = 0;
				let n = 0;
				for (let y = Math.round(y0 * scale); y < y1 * scale; y++) {
					for (let x = Math.round(x0 * scale); x < x1 * scale; x++, n++)
						sum += plane.data[y * plane.width + x]!;
				}
				return sum / n;
			};
			for (const k of [0, 1, 2]) {
				expect([name, k, mean(160 + 220 * k, 310 + 60 * k, 260 + 220 * k, 790) < 70]).toEqual([
					name,
					k,
					true
				]);
			}
			expect(mean(150, 950, 750, 1150)).toBeGreaterThan(245);
			expect(mean(290, 450, 350, 780)).toBeGreaterThan(240);
		}
	});
});

describe('a scan of two tones', () => {
	it('is told from scans in grey', () => {
		expect(isTwoTone(scan)).toBe(true);
		expect(isTwoTone(fullPage(page, 'grey scan', 7).picture)).toBe(false);
	});

	it('keeps in black and white what was black: a dot of four pixels, a hair line, a filled square', () => {
		const picture = blankPicture(1654, 2339);
		const ink = (x0: number, y0: number, w: number, h: number) => {
			for (let y = y0; y < y0 + h; y++) picture.data.fill(0, (y * 1654 + x0) * 3, (y * 1654 + x0 + w) * 3);
		};
		ink(400, 400, 2, 2);
		ink(300, 700, 900, 2);
		ink(600, 1200, 300, 300);
		const tone = { name: 'black-and-white', evenLight: true, inkWeight: 0 } as const;
		const { finished } = preparePage(picture, { corners: wholePicture(1654, 2339), turn: 0, tone });
		if (finished.holds === 'colours') throw new Error('expected one plane');
		const { width, data } = finished.plane;
		const black = (x0: number, y0: number, w: number, h: number) => {
			let n = 0;
			for (let y = y0; y < y0 + h; y++) for (let x = x0; x < x0 + w; x++) if (data[y * width + x] === 0) n++;
			return n;
		};
		expect(Math.abs(width - 1654)).toBeLessThan(3);
		expect(black(396, 396, 10, 10)).toBeGreaterThan(0);
		expect(black(300, 696, 900, 10)).toBeGreaterThan(880);
		expect(black(600, 1200, 300, 300)).toBeGreaterThan(0.98 * 300 * 300);
	});
});
