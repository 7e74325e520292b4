import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Seam } from '../packet/packet';
import { bookmarksOf } from './bookmarks';
import { piecesByQuestion, stretchesOf } from './stretches';

const seam = (page: string, y: number, ...questions: string[]): Seam => ({
	id: `${page}${y}`,
	page,
	y,
	questions
});

describe('stretchesOf', () => {
	it('runs on over page borders until the next seam', () => {
		const stretches = stretchesOf({
			strip: ['a', 'b', 'c'],
			seams: [seam('a', 0.1, '1'), seam('c', 0.5, '2')]
		});
		expect(stretches.map((s) => [s.questions, s.pieces.map((p) => [p.position, p.top, p.bottom])])).toEqual([
			[[], [[1, 0, 0.1]]],
			[
				['1'],
				[
					[1, 0.1, 1],
					[2, 0, 1],
					[3, 0, 0.5]
				]
			],
			[['2'], [[3, 0.5, 1]]]
		]);
	});

	it('passes over seams on pages set aside and needs none at all', () => {
		expect(stretchesOf({ strip: ['a'], seams: [seam('z', 0.5, '1')] })).toHaveLength(1);
		expect(stretchesOf({ strip: [], seams: [] })).toEqual([]);
	});

	it('covers every page once, in order, whatever the seams', () => {
		const seams = fc.array(
			fc
				.tuple(fc.constantFrom('a', 'b', 'c'), fc.integer({ min: 0, max: 100 }))
				.map(([page, y]) => seam(page, y / 100, '1'))
		);
		fc.assert(
			fc.property(seams, (list) => {
				const pieces = stretchesOf({ strip: ['a', 'b', 'c'], seams: list }).flatMap((s) => s.pieces);
				let at = 0;
				for (const piece of pieces) {
					expect(piece.position - 1 + piece.top).toBeCloseTo(at, 4);
					at = piece.position - 1 + piece.bottom;
				}
				expect(at).toBeCloseTo(3, 4);
			})
		);
	});

	it('gathers pieces and bookmarks by question', () => {
		const packet = {
			strip: ['a', 'b'],
			seams: [seam('a', 0, '1'), seam('a', 0.5, '2', '3'), seam('b', 0.2, '1')]
		};
		const pieces = piecesByQuestion(stretchesOf(packet));
		expect(pieces.get('1')).toHaveLength(2);
		expect(pieces.get('3')).toEqual(pieces.get('2'));
		expect(bookmarksOf(packet)).toEqual([
			{ title: 'Question 1', position: 1, top: 0 },
			{ title: 'Question 2, 3', position: 1, top: 0.5 },
			{ title: 'Question 1', position: 2, top: 0.2 }
		]);
	});
});
