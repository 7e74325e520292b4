import { describe, expect, it } from 'vitest';
import { readLine, textLines } from '../../../../tests/support/reading';
import { pageLayout } from './pageLayout';

const LONG = 'a line that is as long as most of them are';

describe('how the lines of a page lie', () => {
	it('is told by most of them: their height, where they begin, and how far apart they are', () => {
		const { lineHeight, bodyLeft, pitch, boxes } = pageLayout(textLines(300, Array(9).fill(LONG)));
		expect([lineHeight, bodyLeft, pitch]).toEqual([50, 210, 60]);
		expect(boxes[2]).toEqual([210, 420, 210 + 18 * LONG.length, 470]);
	});

	it('does not hang on labels in the margin, indents, or what is framed', () => {
		const lines = [
			...textLines(300, Array(9).fill(LONG)),
			readLine('Q1', [60, 300, 110, 350]),
			readLine('2', [60, 480, 90, 530]),
			readLine('an indented line that is long enough', [330, 900, 1100, 950]),
			readLine('3', [40, 600, 140, 900], 'framed')
		];
		const { lineHeight, bodyLeft, pitch } = pageLayout(lines);
		expect([lineHeight, bodyLeft, pitch]).toEqual([50, 210, 60]);
	});

	it('is told by short lines where there are no others', () => {
		const { bodyLeft, lineHeight } = pageLayout([
			readLine('1', [100, 200, 130, 240]),
			readLine('2', [104, 300, 134, 340])
		]);
		expect(lineHeight).toBe(40);
		expect(bodyLeft).toBeGreaterThanOrEqual(100);
		expect(bodyLeft).toBeLessThanOrEqual(104);
	});

	it('is not thrown by a gap of several lines, or by two boxes in one row', () => {
		const lines = [
			...textLines(300, Array(5).fill(LONG)),
			...textLines(1200, Array(5).fill(LONG)),
			readLine('the same row a little further on', [900, 305, 1380, 355])
		];
		expect(pageLayout(lines).pitch).toBe(60);
	});

	it('follows a line that slopes at both of its ends', () => {
		const sloping = {
			...readLine(LONG, [200, 300, 1000, 350]),
			box: [
				[200, 300],
				[1000, 340],
				[1000, 390],
				[200, 350]
			]
		} as ReturnType<typeof readLine>;
		expect(pageLayout([sloping]).boxes[0]).toEqual([200, 320, 1000, 370]);
	});

	it('has its usual measures where there is no line at all', () => {
		const { boxes, lineHeight, bodyLeft, pitch } = pageLayout([]);
		expect([boxes, lineHeight, bodyLeft]).toEqual([[], 40, 0]);
		expect(pitch).toBeCloseTo(48);
	});
});
