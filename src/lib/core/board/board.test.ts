import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { EMPTY_PACKET, type Packet } from '../packet/packet';
import type { PageRecord } from '../page/pageRecord';
import type { Finding } from '../rules/finding';
import {
	cellOf,
	fits,
	nextForClass,
	isLate,
	oftenUnreadable,
	sorted,
	standingOf,
	type BoardStudent,
	type BoardView
} from './board';
import { boardTable } from './boardTable';
import { summarise, type PacketSummary } from './summarise';

const QUESTIONS = [{ label: '1' }, { label: '2', parts: [{ label: 'a' }, { label: 'b' }] }, { label: '3' }];
const record = (verdict: 'clear' | 'doubtful' | 'unreadable' | null): PageRecord =>
	({
		prepared: verdict && { legibility: { verdict } },
		reading: { lines: [], labels: [], numbers: [] },
		problem: null
	}) as unknown as PageRecord;
const PACKET = {
	...EMPTY_PACKET,
	strip: ['p', 'q'],
	seams: [
		{ id: 's1', page: 'p', y: 0.1, questions: ['1'] },
		{ id: 's2', page: 'p', y: 0.6, questions: ['2a'] }
	],
	notAttempted: ['3']
} as Packet;
const finding = (level: Finding['level'], ...pages: number[]): Finding => ({
	rule: 'legibility',
	level,
	message: 'Page 2 reads badly.',
	pages
});

describe('what a board shows of a packet', () => {
	const cells = (records: Record<string, PageRecord>, ...findings: Finding[]) =>
		summarise({ questions: QUESTIONS }, PACKET, records, findings).cells.map((c) => [
			c.question,
			c.state,
			c.pages,
			c.verdict
		]);

	it('is each question, where it stands, and how its worst page reads', () => {
		expect(cells({ p: record('clear'), q: record('doubtful') })).toEqual([
			['1', 'clear', [1], 'clear'],
			['2a', 'clear', [1, 2], 'doubtful'],
			['2b', 'absent', [], null],
			['3', 'skipped', [], null]
		]);
	});

	it('is what a finding says of the pages of a question, the worst of them first', () => {
		const states = cells(
			{ p: record('clear'), q: record('clear') },
			finding('look', 1),
			finding('blocks', 2)
		);
		expect(states.map((c) => c[1])).toEqual(['look', 'blocks', 'absent', 'skipped']);
	});

	it('leads to the page that something is wrong with', () => {
		const { cells, open } = summarise(
			{ questions: QUESTIONS },
			PACKET,
			{ p: record('clear'), q: record('unreadable') },
			[finding('blocks', 2), finding('clear', 1)]
		);
		expect(cells[1]!.page).toBe('q');
		expect(open).toEqual([
			{
				rule: 'legibility',
				level: 'blocks',
				message: 'Page 2 reads badly.',
				pages: [2],
				task: null,
				page: 'q'
			}
		]);
	});

	it('is open where it was only read, with its page and how that reads', () => {
		const records = { p: record('clear'), q: record('doubtful') };
		const read = [{ id: 'x', page: 'q', y: 0.3, questions: ['2b'] }];
		const [, , cell] = summarise({ questions: QUESTIONS }, PACKET, records, [], read).cells;
		expect(cell).toEqual({ question: '2b', state: 'open', pages: [2], page: 'q', verdict: 'doubtful' });
	});

	it('is open, not clear and not absent, while pages are not known', () => {
		expect(cells({ p: record('clear'), q: record(null) })[1]![1]).toBe('open');
		expect(cells({ p: record('clear') })[2]![1]).toBe('open');
	});
});

const summary = (part: Partial<PacketSummary> = {}): PacketSummary => ({
	cells: [],
	open: [],
	pages: [],
	...part
});
const student = (part: Partial<BoardStudent> = {}): BoardStudent => ({
	id: 'x',
	given: 'Ilka',
	family: 'Brandsma',
	hasMail: true,
	packetId: 'k',
	version: 3,
	pages: 4,
	updatedAt: null,
	summary: summary(),
	fresh: true,
	handedInAt: null,
	changedSince: false,
	onItsWay: false,
	returnedAt: null,
	moreTime: null,
	...part
});
const board = (students: BoardStudent[], part: Partial<BoardView> = {}): BoardView => ({
	id: 'a',
	now: Date.parse('2031-03-14T12:00:00Z'),
	due: '2031-03-14T10:00:00+00:00',
	grace: 0,
	questions: ['1', '2a'],
	students,
	...part
});
const blocks = {
	rule: 'pageCount',
	level: 'blocks',
	message: 'Too few.',
	pages: [],
	task: null,
	page: null
} as const;

describe('how far a packet has come', () => {
	it.each([
		[{ pages: 0, packetId: null, summary: null, fresh: false }, 'none'],
		[{ summary: null }, 'checking'],
		[{ fresh: false }, 'checking'],
		[{ summary: summary({ open: [blocks] }) }, 'blocked'],
		[{}, 'ready'],
		[{ summary: summary({ open: [{ ...blocks, level: 'look' }] }) }, 'ready'],
		[{ handedInAt: '2031-03-13T10:00:00Z', fresh: false }, 'handed-in'],
		[{ handedInAt: '2031-03-13T10:00:00Z', onItsWay: true }, 'on-its-way'],
		[{ handedInAt: '2031-03-13T10:00:00Z', returnedAt: '2031-03-13T12:00:00Z' }, 'returned']
	] as [Partial<BoardStudent>, string][])('%j is %s', (part, standing) => {
		expect(standingOf(student(part))).toBe(standing);
	});

	it('is late by the time that one was given', () => {
		const handedInAt = '2031-03-14T11:00:00Z';
		expect(isLate(board([]), student({ handedInAt }))).toBe(true);
		expect(isLate(board([]), student({ handedInAt, moreTime: '2031-03-15T10:00:00+00:00' }))).toBe(false);
		expect(isLate(board([]), student())).toBe(true);
		expect(isLate(board([], { due: null }), student())).toBe(false);
	});
});

describe('a board', () => {
	const reads = (verdict: 'clear' | 'doubtful' | 'unreadable') =>
		student({
			summary: summary({ cells: [{ question: '2a', state: 'clear', pages: [2], page: 'p', verdict }] })
		});

	it('says which questions read badly for many', () => {
		const many = board([reads('unreadable'), reads('doubtful'), reads('clear'), reads('clear')]);
		expect(oftenUnreadable(many)).toEqual([{ question: '2a', bad: 2, of: 4 }]);
		expect(oftenUnreadable(board([reads('unreadable')]))).toEqual([]);
	});

	it('shows who fits words, a standing and a question that reads badly', () => {
		const all = { words: '', standing: 'any', unreadable: null } as const;
		const fit = (part: Partial<BoardStudent>, filter: object) =>
			fits(board([]), student(part), { ...all, ...filter });
		expect(fit({}, { words: 'brand il' })).toBe(true);
		expect(fit({}, { words: 'okoro' })).toBe(false);
		expect(fit({}, { standing: 'ready' })).toBe(true);
		expect(fit({}, { standing: 'blocked' })).toBe(false);
		expect(fit({}, { standing: 'late' })).toBe(true);
		expect(fits(board([]), reads('doubtful'), { ...all, unreadable: '2a' })).toBe(true);
		expect(fits(board([]), reads('clear'), { ...all, unreadable: '2a' })).toBe(false);
		expect(fits(board([]), reads('doubtful'), { ...all, unreadable: '1' })).toBe(false);
	});

	it('is put in order without losing anybody, both ways', () => {
		const some = fc.array(
			fc.record({ family: fc.string(), pages: fc.nat(9), given: fc.constant('A') }).map((p) => student(p))
		);
		fc.assert(
			fc.property(some, fc.constantFrom('name', 'pages', 'standing', 'changed' as const), (students, by) => {
				for (const down of [false, true]) {
					const rows = sorted(students, by as 'name', down);
					expect(rows.length).toBe(students.length);
					expect(new Set(rows)).toEqual(new Set(students));
					if (by !== 'pages') continue;
					const pages = rows.map((r) => (down ? -r.pages : r.pages));
					expect(pages).toEqual([...pages].sort((a, b) => a - b));
				}
			})
		);
	});

	it('becomes a table with a row for everybody, and a column for each question', () => {
		const [row] = boardTable(board([reads('clear')]));
		expect(row).toMatchObject({
			Family: 'Brandsma',
			State: 'Ready',
			Late: 'yes',
			'Question 1': 'not known yet',
			'Question 2a': 'clear (p. 2)'
		});
		expect(cellOf(student({ pages: 0, summary: null }), '1').state).toBe('absent');
	});
});

describe('what a class needs next', () => {
	const found = { question: '1', state: 'open' as const, pages: [1], page: 'p', verdict: null };
	const read = summary({ cells: [found], open: [blocks] });
	const unknown = summary({ cells: [{ ...found, pages: [], page: null }], open: [blocks] });

	it('is to place what was read of those who have not handed in, and to hand in what is ready', () => {
		const students = [
			student({ id: 'read', summary: read }),
			student({ id: 'not known yet', summary: unknown }),
			student({ id: 'handed in', summary: read, handedInAt: '2031-03-14T09:00:00Z' }),
			student({ id: 'given back', summary: read, returnedAt: '2031-03-14T09:00:00Z' }),
			student({ id: 'read on', summary: read, fresh: false }),
			student({ id: 'ready' })
		];
		expect(nextForClass(students)).toEqual({ place: ['read', 'read on'], handIn: ['ready'] });
	});

	it('is nothing where all is placed, and what blocks is not known to be read', () => {
		expect(nextForClass([student({ summary: unknown }), student({ pages: 0 })])).toEqual({
			place: [],
			handIn: []
		});
	});
});
