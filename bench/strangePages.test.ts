import { describe, expect, it } from 'vitest';
import { luma } from '../src/lib/core/raster/luma';
import type { Picture } from '../src/lib/core/raster/picture';
import { labelForms } from '../src/lib/core/reading/labelForms';
import { pageReading } from '../src/lib/core/reading/pageReading';
import { readPlaces } from '../src/lib/server/reader/lookAtPage';
import { lookedStrangePage } from './fit/lookedPages';
import { SCRIPTS } from './otherScripts';
import { STRANGE, strangePage } from './strangePages';

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

describe('strange pages', () => {
	it.each(STRANGE)('of the kind "%s" have something on them, the same each time', (kind) => {
		const [once, again] = [0, 0].map(() => strangePage(kind, 'test', 1, 7).picture);
		expect(Buffer.compare(Buffer.from(once!.data), Buffer.from(again!.data))).toBe(0);
		expect(dark(once!, [0, 0, 1, 1])).toBeGreaterThan(0.002);
	});

	it('carry labels where they say so, and nowhere else', () => {
		for (let nth = 0; nth < SCRIPTS.test.length; nth++) {
			const { picture, labels } = strangePage('answers in another script', 'test', nth, 7);
			expect(labels.length).toBeGreaterThan(2);
			for (const { x, y } of labels)
				expect(dark(picture, [x, y, x + 0.02, y + 0.018])).toBeGreaterThan(0.005);
			expect(strangePage('other script', 'test', nth, 7).labels).toEqual([]);
		}
	});

	it.each(['other script', 'pattern', 'no page'] as const)(
		'of the kind "%s" are said to carry no label and no number',
		async (kind) => {
			const page = await lookedStrangePage(kind, 'test', 2, 7);
			const reading = pageReading([], await readPlaces(page.places), page.size, labelForms(null));
			const likely = [...reading.labels.flatMap((l) => l.options), ...reading.numbers];
			expect(likely.filter((o) => o.probability >= 0.5)).toEqual([]);
		}
	);

	it('are measured in scripts, or fonts, that nothing is fitted on', () => {
		const fonts = SCRIPTS.test.map((s) => s.font);
		expect(SCRIPTS.tuning.filter((s) => fonts.includes(s.font))).toEqual([]);
	});
});
