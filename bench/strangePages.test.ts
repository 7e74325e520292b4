import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { GlobalFonts } from '@napi-rs/canvas';
import { beforeAll, describe, expect, it } from 'vitest';
import { hands } from '../demo/generator/hands';
import { Random } from '../demo/generator/random';
import { luma } from '../src/lib/core/raster/luma';
import type { Picture } from '../src/lib/core/raster/picture';
import { labelForms } from '../src/lib/core/reading/labelForms';
import { pageReading } from '../src/lib/core/reading/pageReading';
import { readPlaces } from '../src/lib/server/reader/lookAtPage';
import { lookedStrangePage } from './fit/lookedPages';
import { drawScriptPage, SCRIPTS } from './otherScripts';
import { strangePage } from './strangePages';

/** Share of dark points in a part of a picture, left, top, right and bottom as fractions. */
function dark(picture: Picture, [x0, y0, x1, y1]: readonly [number, number, number, number]): number {
	const { width, height } = picture;
	const grey = luma(picture).data;
	let [count, all] = [0, 0];
	for (let y = Math.floor(y0 * height); y < y1 * height; y++) {
		for (let x = Math.floor(x0 * width); x < x1 * width; x++, all++) if (grey[y * width + x]! < 175) count++;
	}
	return count / all;
}

/** Of these nothing has to be installed beside. */
const DRAWN = ['print', 'pattern', 'no page', 'numbered print'] as const;

describe('strange pages', () => {
	it.each(DRAWN)('of the kind "%s" have something on them, the same each time', (kind) => {
		const [once, again] = [0, 0].map(() => strangePage(kind, 'test', 1, 7).picture);
		expect(Buffer.compare(Buffer.from(once!.data), Buffer.from(again!.data))).toBe(0);
		expect(dark(once!, [0, 0, 1, 1])).toBeGreaterThan(0.002);
	});

	it.each(['pattern', 'no page'] as const)('of the kind "%s" are said to carry nothing', async (kind) => {
		const page = await lookedStrangePage(kind, 'test', 2, 7);
		const reading = pageReading([], await readPlaces(page.places), page.size, labelForms(null));
		const likely = [...reading.labels.flatMap((l) => l.options), ...reading.numbers];
		expect(likely.filter((o) => o.probability >= 0.5)).toEqual([]);
	});
});

describe('a page in another script', () => {
	const DEVANAGARI = { letters: [0x915, 0x939] } as const;
	const draw = (answers: boolean, leftwards?: true) =>
		drawScriptPage(
			leftwards ? { ...DEVANAGARI, leftwards } : DEVANAGARI,
			'other-script',
			() => hands()[0]!.family,
			new Random(7),
			answers
		);
	beforeAll(() => {
		const folder = dirname(createRequire(import.meta.url).resolve('@fontsource/kalam/package.json'));
		const file = join(folder, 'files', 'kalam-devanagari-400-normal.woff2');
		expect(GlobalFonts.registerFromPath(file, 'other-script')).toBeTruthy();
	});

	it.each([undefined, true as const])(
		'carries labels where it says so, and nowhere else (leftwards: %s)',
		(leftwards) => {
			const { picture, labels } = draw(true, leftwards);
			expect(labels.length).toBeGreaterThan(2);
			const without = draw(false, leftwards);
			for (const { x, y } of labels) {
				expect(leftwards ? x > 0.7 : x < 0.2).toBe(true);
				expect(dark(picture, [x, y, x + 0.02, y + 0.018])).toBeGreaterThan(0.005);
			}
			expect(without.labels).toEqual([]);
			expect(without.pageNumber).toBeUndefined();
		}
	);

	it('is measured in fonts that nothing is fitted on', () => {
		const fonts = SCRIPTS.test.map((s) => s.font);
		expect(SCRIPTS.tuning.filter((s) => fonts.includes(s.font))).toEqual([]);
	});
});
