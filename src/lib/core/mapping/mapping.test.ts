import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { label, option, reading } from '../../../../tests/support/reading';
import { apply } from '../packet/change';
import { EMPTY_PACKET, type Seam } from '../packet/packet';
import { aboveRow } from './aboveRow';
import { bookmarksOf } from './bookmarks';
import { confirmSeams, proposeSeams, UNSURE } from './proposeSeams';
import { piecesByQuestion, stretchesOf, withoutHeaders } from './stretches';

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

describe('proposeSeams', () => {
	const QUESTIONS = [
		{ label: '1' },
		{ label: '2', parts: [{ label: 'a' }, { label: 'b' }] },
		{ label: '3', parts: [{ label: 'a' }, { label: 'b' }] },
		{ label: '4', newPage: true }
	];
	const TEXTS = Array.from({ length: 20 }, (_, i) => `line ${i} of the writing here`);
	const pageOf = (page: string, ...labels: ReturnType<typeof label>[]) => ({
		page,
		reading: reading({ labels, texts: TEXTS })
	});
	const said = (pages: ReturnType<typeof pageOf>[], own: Seam[] = [], declined: string[] = []) =>
		proposeSeams(QUESTIONS, pages, own, declined).map((s) => `${s.page} ${s.questions.join('+')}`);

	it('fills in what a label leaves out: "(b)" after "3 (a)" is 3b', () => {
		const pages = [
			pageOf('p', label(0.1, '1'), label(0.3, '2a'), label(0.5, 'b')),
			pageOf('q', label(0.1, '3a'), label(0.4, 'b'))
		];
		expect(said(pages)).toEqual(['p 1', 'p 2a', 'p 2b', 'q 3a', 'q 3b']);
		expect(proposeSeams(QUESTIONS, pages).every((s) => s.confidence > 0.8)).toBe(true);
	});

	it('lets the order of the questions decide between two readings, and says that it is less sure', () => {
		const doubtful = { ...label(0.5, '2a'), options: [option('3a', 0.45), option('2a', 0.4)] };
		const seams = proposeSeams(QUESTIONS, [pageOf('p', label(0.1, '1'), doubtful, label(0.8, '2b'))]);
		expect(seams.map((s) => s.questions[0])).toEqual(['1', '2a', '2b']);
		expect(seams[1]!.confidence).toBeLessThan(seams[0]!.confidence);
	});

	it('takes a stray number in the writing for none', () => {
		const stray = label(0.5, '1', 0.35);
		expect(said([pageOf('p', label(0.1, '2a'), stray, label(0.8, '2b'))])).toEqual(['p 2a', 'p 2b']);
	});

	it('makes one seam of labels side by side, left before right', () => {
		const pages = [pageOf('p', label(0.3, '2b', 0.97, 0.56), label(0.303, '2a', 0.97, 0.15))];
		expect(said(pages)).toEqual(['p 2a+2b']);
	});

	it('lets a heading begin its first part, and stand for all parts where none is labelled', () => {
		expect(said([pageOf('p', label(0.1, '2'), label(0.15, 'a'), label(0.5, 'b'))])).toEqual(['p 2a', 'p 2b']);
		expect(said([pageOf('p', label(0.1, '1'), label(0.3, '2'), label(0.6, '3a'))])).toEqual([
			'p 1',
			'p 2a+2b',
			'p 3a'
		]);
	});

	it('allows questions out of order where the labels are sure', () => {
		expect(said([pageOf('p', label(0.1, '3a', 0.99), label(0.5, '1', 0.99))])).toEqual(['p 3a', 'p 1']);
	});

	it('is never sure of a question that begins a second time, the less so where a person placed it', () => {
		const pages = [pageOf('p', label(0.1, '1'), label(0.3, '2a'), label(0.5, '2b'), label(0.8, '1', 0.999))];
		const again = proposeSeams(QUESTIONS, pages);
		expect(again.map((s) => [s.questions[0], s.confidence < UNSURE])).toEqual([
			['1', false],
			['2a', false],
			['2b', false],
			['1', true]
		]);
		// An axis that says "Q / m" below what is settled is no beginning of question 1.
		const own = [seam('p', 0.1, '1'), seam('p', 0.3, '2a'), seam('p', 0.5, '2b')];
		const axis = [pageOf('p', label(0.1, '1'), label(0.3, '2a'), label(0.5, '2b'), label(0.8, '1', 0.9))];
		expect(said(axis, own)).toEqual([]);
	});

	it('never moves the seams of a person, proposes nothing beside them, and nothing that was declined', () => {
		const own: Seam[] = [{ id: 's', page: 'p', y: 0.31, questions: ['2a'] }];
		const pages = [pageOf('p', label(0.1, '1'), label(0.3, '3a'), label(0.5, 'b'))];
		expect(said(pages, own)).toEqual(['p 1', 'p 2b']);
		expect(said(pages, own, ['p 2b'])).not.toContain('p 2b');
	});

	it('proposes nothing for pages that have not been read', () => {
		expect(proposeSeams(QUESTIONS, [{ page: 'p', reading: null }])).toEqual([]);
	});

	it('is confirmed by one change, which one undo takes back', () => {
		const page = { id: 'p', source: 'p', sourcePage: 0, corners: null, turn: null, tone: null } as const;
		const packet = { ...EMPTY_PACKET, pages: { p: page }, strip: ['p'] };
		const seams = proposeSeams(QUESTIONS, [pageOf('p', label(0.1, '1'), label(0.5, '2a'))]);
		const { packet: after, inverse } = apply(packet, confirmSeams(seams));
		expect(after.seams.map((s) => s.questions)).toEqual([['1'], ['2a']]);
		expect(said([pageOf('p', label(0.1, '1'), label(0.5, '2a'))], [...after.seams])).toEqual([]);
		expect(apply(after, inverse).packet).toEqual(packet);
	});
});

describe('aboveRow', () => {
	const { lines } = reading({ texts: ['one line', 'another line', 'a third line'] });
	it('goes between the rows, above the highest piece of the one below', () => {
		const [, second] = lines;
		const y = aboveRow(second!.box[1] + 0.006, lines);
		expect(y).toBeLessThan(second!.box[1]);
		expect(y).toBeGreaterThan(lines[0]!.box[3]);
		// Boxes that overlap are parted in the middle.
		const tight = lines.map((l) => ({
			...l,
			box: [l.box[0], l.box[1] - 0.006, l.box[2], l.box[3] + 0.006] as const
		}));
		expect(aboveRow(second!.box[1], tight)).toBeCloseTo((lines[0]!.box[3] + second!.box[1]) / 2, 2);
	});
	it('needs no lines at all', () => {
		expect(aboveRow(0.5, [])).toBeCloseTo(0.494, 3);
		expect(aboveRow(0, [])).toBe(0);
	});
});

describe('withoutHeaders', () => {
	const stretches = stretchesOf({
		strip: ['a', 'b'],
		seams: [seam('a', 0.1, '1'), seam('b', 0.09, '2')]
	});
	const linesOn = (...tops: number[]) =>
		tops.map((top) => ({ box: [0.1, top, 0.4, top + 0.02] as const, text: 'x', confidence: 1 }));
	it('leaves out the head of a page that holds a name, not one that holds work', () => {
		const onlyName = withoutHeaders(stretches, () => linesOn(0.04, 0.09, 0.2));
		expect(piecesByQuestion(onlyName).get('1')).toHaveLength(1);
		const work = withoutHeaders(stretches, () => linesOn(0.04, 0.0755, 0.2));
		expect(piecesByQuestion(work).get('1')).toHaveLength(2);
		expect(withoutHeaders(stretches, () => null)).toEqual(stretches);
	});
});
