import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { testPage } from '../../../../tests/support/pictures';
import { analysePicture } from '../page/preparePage';
import { blankPicture, type Picture } from '../raster/picture';
import { degreesOf, straightened } from './askew';
import { flatten } from './flatten';
import { overlap, wholePicture } from './geometry';
import { withoutMargins } from './scanMargins';

/** A picture on black, with so much of it on each side. */
function onBlack(page: Picture, [top, right, bottom, left]: readonly number[]): Picture {
	const out = blankPicture(page.width + left! + right!, page.height + top! + bottom!, [6, 6, 6]);
	for (let y = 0; y < page.height; y++) {
		const row = page.data.subarray(y * page.width * 3, (y + 1) * page.width * 3);
		out.data.set(row, ((y + top!) * out.width + left!) * 3);
	}
	return out;
}

describe('the black around a scanned sheet', () => {
	it('is left out, and nothing but it', () => {
		const margin = fc.integer({ min: 0, max: 60 });
		const page = blankPicture(240, 320, [236, 234, 230]);
		fc.assert(
			fc.property(fc.tuple(margin, margin, margin, margin), (margins) => {
				const [top, right, bottom, left] = margins;
				const part = withoutMargins(onBlack(page, margins));
				if (margins.every((m) => m === 0)) return expect(part).toBeNull();
				// One more row is let go beside a margin, none where there is none.
				const cut = (margin: number) => (margin > 0 ? margin + 1 : 0);
				expect(part).toEqual({
					left: cut(left),
					top: cut(top),
					right: left + 240 - cut(right) + right,
					bottom: top + 320 - cut(bottom) + bottom
				});
			})
		);
	});

	it('gives the page of a scan, sure, and leaning lines in it are still made level', () => {
		const { picture: page } = testPage(6, { ruling: 'ruled' });
		const { width, height } = page;
		// As fed two degrees askew.
		const leaning = flatten(
			page,
			straightened({ width: 8, height: 8, data: new Uint8Array(64).fill(255) }, 2, width, height),
			width,
			height
		);
		const facts = analysePicture(onBlack(leaning, [0, 0, 130, 0]));
		expect(facts.outline.kind).toBe('whole');
		expect(facts.outline.confidence).toBeGreaterThanOrEqual(0.5);
		expect(overlap(facts.outline.corners, wholePicture(width, height))).toBeGreaterThan(0.985);
		const straight = facts.straight!;
		expect(Math.abs(degreesOf(straight))).toBeCloseTo(2, 0);
		// Around the middle of the sheet, not of the picture.
		expect((straight[0][1] + straight[2][1]) / 2).toBeCloseTo(facts.outline.corners[2][1] / 2, 0);
	});

	it('is not a dark picture, nor print or ink that reaches the rim of a page', () => {
		expect(withoutMargins(blankPicture(300, 200, [20, 20, 24]))).toBeNull();
		const page = blankPicture(300, 400, [240, 240, 240]);
		// A bar across the page that leaves some paper at its end.
		for (let y = 370; y < 400; y++) page.data.fill(0, y * 900, y * 900 + 870);
		expect(withoutMargins(page)).toBeNull();
	});
});
