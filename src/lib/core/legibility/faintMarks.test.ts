import { describe, expect, it } from 'vitest';
import { DPI, NOISE, paper, PEN, PENCIL, plane, rule, write } from '../../../../tests/support/letters';
import { gaussianBlur } from '../raster/boxBlur';
import { toFloat } from '../raster/floatPlane';
import { halve } from '../raster/halve';
import { faintAlone, withFaintMarks } from './faintMarks';
import { PROFILE_ROWS } from './legibility';
import { TILE_COLUMNS } from './tiles';
import { writingMask } from './writingMask';

const ABOVE = [90, 150, 210];
const BELOW = [510, 570, 630, 690];
/** So faint that it may be on the other side. */
const WHISPER = 232;

function seen(rows: readonly (readonly [readonly number[], number])[], ruled = false, blur = 0) {
	const data = paper();
	if (ruled) rule(data);
	for (const [at, grey] of rows.slice(1)) write(data, at, grey);
	if (blur > 0) data.set(gaussianBlur(toFloat(plane(data)), blur).data.map(Math.round));
	write(data, rows[0]![0], rows[0]![1]);
	const grey = plane(data);
	return { grey, writing: writingMask(halve(grey), NOISE / 2) };
}

describe('pencil beside a pen', () => {
	it.each([false, true])('is writing where it is as sharp as the pen (ruled: %s)', (ruled) => {
		const { grey, writing } = seen(
			[
				[ABOVE, PEN],
				[BELOW, PENCIL]
			],
			ruled
		);
		const all = withFaintMarks(writing, grey);
		expect(writing.faint).toBeGreaterThan(0.4);
		expect(all.faint).toBeLessThan(0.1);
		expect(all.coverage).toBeGreaterThan(1.8 * writing.coverage);
		expect(faintAlone(all, DPI / 2).share).toBe(0);
	});

	it('is none where it is soft, and nothing is added where all is of one pen', () => {
		const soft = seen(
			[
				[ABOVE, PEN],
				[BELOW, 120]
			],
			false,
			3
		);
		expect(withFaintMarks(soft.writing, soft.grey)).toBe(soft.writing);
		const one = seen([[[...ABOVE, ...BELOW], PENCIL]], true);
		expect(withFaintMarks(one.writing, one.grey)).toBe(one.writing);
	});

	it('stands alone where the pen has written nothing near, and there only', () => {
		const { writing } = seen([
			[ABOVE, PEN],
			[BELOW, WHISPER]
		]);
		const { share, tiles } = faintAlone(writing, DPI / 2);
		expect(share).toBeGreaterThan(0.4);
		expect(share).toBeLessThan(0.7);
		const rows = [...tiles.keys()].filter((t) => tiles[t]! > 0).map((t) => Math.floor(t / TILE_COLUMNS));
		expect(Math.min(...rows) / PROFILE_ROWS).toBeGreaterThan(0.55);
		// Between the pen's lines the same marks stand beside something.
		const between = seen([
			[ABOVE, PEN],
			[ABOVE.map((row) => row + 30), WHISPER]
		]);
		expect(between.writing.faint).toBeGreaterThan(0.1);
		expect(faintAlone(between.writing, DPI / 2).share).toBe(0);
	});
});
