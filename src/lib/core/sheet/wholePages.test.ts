import { describe, expect, it } from 'vitest';
import { situationSpec } from '../../../../bench/situations';
import { photograph } from '../../../../demo/generator/photograph';
import { fullPage, TAKES } from '../../../../demo/generator/fullPage';
import { printedPage, PRINTED, type PrintedKind } from '../../../../demo/generator/printedPage';
import { noPage, SCENES } from '../../../../demo/generator/scene';
import { testPage } from '../../../../tests/support/pictures';
import { analysePicture } from '../page/preparePage';
import { blankPicture, type Picture } from '../raster/picture';
import { overlap, wholePicture } from './geometry';
import { findOutline } from './outline';

const printed = (kind: PrintedKind, seed: number) => printedPage({ seed, kind, size: [900, 1270] });

/** Two pages beside each other, as a scanner sees an open book pressed flat. */
function spreadScan(left: Picture, right: Picture): Picture {
	const out = blankPicture(left.width + right.width, left.height);
	for (const [page, from] of [
		[left, 0],
		[right, left.width]
	] as const) {
		for (let y = 0; y < page.height; y++) {
			const row = page.data.subarray(y * page.width * 3, (y + 1) * page.width * 3);
			out.data.set(row, (y * out.width + from) * 3);
		}
	}
	return out;
}

describe('a page that fills the picture', () => {
	it.each(PRINTED.map((kind, i) => [kind, TAKES[i % TAKES.length]!, 9100 + i] as const))(
		'is left whole: %s, %s',
		(kind, take, seed) => {
			const { picture, corners } = fullPage(printed(kind, seed), take, seed);
			const { outline, spread } = analysePicture(picture);
			const { width, height } = picture;
			const right = [corners, wholePicture(width, height)].map((truth) => overlap(outline.corners, truth));
			expect(Math.max(...right)).toBeGreaterThan(0.95);
			expect(spread).toBeUndefined();
		}
	);

	it('loses nothing to a frame printed on it, on a desk either', () => {
		for (const seed of [9201, 9202, 9203]) {
			const page = printed('framed', seed);
			const { picture, corners } = photograph(page, situationSpec('plain wood', seed, [1200, 1600]));
			expect(overlap(findOutline(picture).corners, corners)).toBeGreaterThan(0.97);
		}
	});
});

describe('a scan of two pages', () => {
	it('is cut at its gutter, and one page of two columns is not', () => {
		const pages = [9301, 9302].map((seed) => fullPage(printed('text', seed), 'grey scan', seed).picture);
		const scan = spreadScan(pages[0]!, pages[1]!);
		const { spread } = analysePicture(scan);
		expect(spread?.stacked).toBe(false);
		const { width, height } = scan;
		const [left] = spread!.halves;
		expect(overlap(left, wholePicture(width / 2, height))).toBeGreaterThan(0.95);
		for (const seed of [9311, 9312, 9313]) {
			const wide = printedPage({ seed, kind: 'columns', size: [1270, 900], lines: 34 });
			expect(analysePicture(fullPage(wide, 'grey scan', seed).picture).spread).toBeUndefined();
		}
	});
});

describe('a picture of something else', () => {
	it('is left whole and unsure, and never cut in two', () => {
		let madeUp = 0;
		for (const [i, kind] of SCENES.entries()) {
			const { outline, spread } = analysePicture(noPage(9400 + i, kind, [900, 700]));
			expect(spread).toBeUndefined();
			if (outline.confidence >= 0.5) madeUp++;
			else expect(outline.corners).toEqual(wholePicture(900, 700));
		}
		// A plain bright board on a table is drawn like a sheet, and may be taken for one.
		expect(madeUp).toBeLessThanOrEqual(1);
	});
});

describe('a sheet that runs out of the picture', () => {
	it('keeps the corners that its sides meet in, outside of it', () => {
		const page = testPage(3).picture;
		const { picture, corners } = photograph(page, {
			...situationSpec('plain wood', 9501, [1200, 1600]),
			fill: 0.8,
			slant: 12,
			shift: [0.09, 0],
			lies: 0
		});
		expect(Math.max(...corners.map(([x]) => x))).toBeGreaterThan(picture.width + 25);
		const found = findOutline(picture);
		expect(found.confidence).toBeGreaterThan(0.5);
		expect(overlap(found.corners, corners)).toBeGreaterThan(0.97);
		expect(found.cutOff).toContain('right');
	});
});
