import { describe, expect, it } from 'vitest';
import { answerables } from '../assignment/question';
import type { RuleSheet } from '../rules/ruleSheet';
import { describeProposal } from './describeProposal';
import { dueIn, graceIn, type Reader } from './due';
import { sizeIn, toneIn, typeIn } from './file';
import { nameIn } from './fileName';
import { courseIn, titleIn } from './heading';
import { pagesIn, paperIn } from './pages';
import { proposal, type Proposal, type Span } from './proposal';
import { collect, listAt, newPageIn, questionsIn } from './questions';
import { sheetWith } from './sheetWith';
import { textOfLines } from './textOfLines';
import { isDenied, numberOf, plain, sentencesOf, type Sentence } from './words';

const READER: Reader = {
	now: Date.parse('2026-11-26T10:00:00+01:00'),
	timeZone: 'Europe/Amsterdam',
	dayFirst: true
};
/** What a text says to one of the readers, with the words that it comes from. */
function read<T extends { value: unknown; spans: readonly Span[]; sure: boolean }>(
	reader: (sentences: readonly Sentence[]) => T | null,
	text: string
) {
	const found = reader(sentencesOf(text));
	return (
		found && {
			value: found.value as T['value'],
			sure: found.sure,
			words: found.spans.map(({ from, to }) => text.slice(from, to))
		}
	);
}

describe('sentences of a text', () => {
	const of = (text: string) => sentencesOf(text).map((s) => s.text);

	it('end with a stop before a capital, with a semicolon, and with the line', () => {
		expect(of('Answer all. Use ink; no pencil\nHand it in.')).toEqual([
			'Answer all.',
			'Use ink;',
			'no pencil',
			'Hand it in.'
		]);
	});

	it.each([
		'At most 8 MB, max. 6 pages.',
		'Due Dec. 10 at noon.',
		'See fig. 3 and No. 4.',
		'By 5 p.m. today.'
	])('do not end behind what is shortened: %s', (text) => expect(of(text)).toEqual([text]));

	it('say where in the text they stand, and in which line', () => {
		const text = '  One.\n\n  Two here.';
		for (const { text: said, from, to } of sentencesOf(text)) expect(text.slice(from, to)).toBe(said);
		expect(sentencesOf(text).map((s) => s.line)).toEqual([0, 2]);
	});

	it('are none of an empty text', () => {
		expect(of(' \n \n')).toEqual([]);
	});
});

describe('words', () => {
	it('for numbers are numbers', () => {
		expect(['three', 'Twelve', '7'].map(numberOf)).toEqual([3, 12, 7]);
	});

	it('are plain with every character where it was', () => {
		const text = 'pages 4–6, “one PDF”,\u00a0don’t';
		expect(plain(text)).toBe('pages 4-6, "one PDF", don\'t');
		expect(plain(text)).toHaveLength(text.length);
	});

	it.each([
		['no PDF', true],
		['do not send a PDF', true],
		['a ZIP instead of a PDF', true],
		['a PDF', false],
		['no pencil, one PDF', false]
	])('before a place deny it or not: %s', (text, denied) => {
		expect(isDenied(text, text.indexOf('PDF'))).toBe(denied);
	});
});

describe('questions listed', () => {
	const listed = (text: string) =>
		listAt(text, 0)
			?.value.map(({ question, part }) => question + (part ?? ''))
			.join(' ') ?? null;

	it.each([
		['1, 2 and 3', '1 2 3'],
		['Questions 1-4', '1 2 3 4'],
		['Q1 to Q3', '1 2 3'],
		['1, 2 (a) to (c) and 3', '1 2a 2b 2c 3'],
		['1a-c, 2', '1a 1b 1c 2'],
		['2 (a, b and d)', '2a 2b 2d'],
		['3 (a-c)', '3a 3b 3c'],
		['problems 5 through 7', '5 6 7'],
		['4 and also 6', '4 6'],
		['2 parts a and b', '2a 2b']
	])('"%s" are %s', (text, ids) => expect(listed(text)).toBe(ids));

	it.each(['all of them', '10 MB', '5 pm', '20 %', '3 pages', '17:30'])('are none in "%s"', (text) =>
		expect(listed(text)).toBeNull()
	);

	it('"2 a page" is a question and no part of one', () => {
		expect(listed('2 a page')).toBe('2');
	});

	it('that run backwards are the first alone', () => {
		expect(listed('7-3')).toBe('7');
	});

	it('are collected with their parts, each once, in the order in which they were named', () => {
		const items = [
			{ question: '2', part: 'b' },
			{ question: '1', part: null },
			{ question: '2', part: 'a' },
			{ question: '2', part: 'b' }
		];
		expect(collect(items)).toEqual([{ label: '2', parts: [{ label: 'b' }, { label: 'a' }] }, { label: '1' }]);
	});
});

describe('the questions that are asked', () => {
	const asked = (text: string) => {
		const found = read((s) => questionsIn(s, []), text);
		return (
			found && [
				answerables(found.value)
					.map((q) => q.id)
					.join(' '),
				found.sure
			]
		);
	};

	it.each([
		['Answer questions 1 to 3.', '1 2 3', true],
		['Answer parts (a) to (c) of question 2 and all of question 3.', '2a 2b 2c 3', true],
		['Parts (a) to (c) of question 2 and all of question 3.', '2a 2b 2c 3', false],
		['Solve 1(a), 1(b) and 4.', '1a 1b 4', true],
		['Do problems 1-6 except 4.', '1 2 3 5 6', true],
		['Do problems 5-9 (odd).', '5 6 7 8 9', false],
		['Answer one of questions 2 and 3.', '2 3', false]
	])('in "%s" are %s', (text, ids, sure) => expect(asked(text)).toEqual([ids, sure]));

	it.each(['Question 3 was discussed in class.', 'Bring a pen.', 'Compare with last week.'])(
		'are none in "%s"',
		(text) => expect(asked(text)).toBeNull()
	);

	it('are not taken from words that said something else already', () => {
		const text = 'Answer questions 1 to 3.';
		expect(questionsIn(sentencesOf(text), [{ from: 0, to: text.length }])).toBeNull();
	});

	it('begin on a new page where that is said of them, or of each', () => {
		expect(read(newPageIn, 'Start question 3 on a new page.')?.value).toEqual(['3']);
		expect(read(newPageIn, 'Begin each problem on a fresh sheet.')?.value).toBe('every');
		expect(read(newPageIn, 'Turn to a new page.')).toBeNull();
	});
});

describe('when it is due', () => {
	const due = (text: string, change: Partial<Reader> = {}) => {
		const found = read((s) => dueIn(s, { ...READER, ...change }), text);
		return found && [found.value, found.sure];
	};

	it.each([
		['Due Friday 4 December 2026, 18:00.', '2026-12-04T18:00:00+01:00', true],
		['Submit by 15.12.2026 at 17h00.', '2026-12-15T17:00:00+01:00', true],
		['Deadline: 7 July 2027, 9 am', '2027-07-07T09:00:00+02:00', true],
		['Hand it in by 4 December.', '2026-12-04T23:59:00+01:00', false],
		['Due 3 December 2026, midnight.', '2026-12-03T23:59:00+01:00', false],
		['Due 12 November 2026, 12:00.', '2026-11-12T12:00:00+01:00', false]
	])('"%s" is %s', (text, value, sure) => expect(due(text)).toEqual([value, sure]));

	it('goes by how days are written where the reader is, and says that it may be meant otherwise', () => {
		expect(due('Due 4/12/2026, 18:00.')).toEqual(['2026-12-04T18:00:00+01:00', false]);
		expect(due('Due 4/12/2027, 18:00.', { dayFirst: false })?.[0]).toMatch(/^2027-04-12T18:00/);
		expect(due('Due 12/12/2026, 18:00.')).toEqual(['2026-12-12T18:00:00+01:00', true]);
	});

	it('keeps to its own moment beside others', () => {
		expect(
			due('Posted 20 November 2026. Due 4 December 2026 at 18:00. Solutions on 9 December 2026.')
		).toEqual(['2026-12-04T18:00:00+01:00', true]);
	});

	it('is not sure where two moments are said to end it', () => {
		expect(due('Submit by 4 December 2026, 18:00. Submit by 6 December 2026, 18:00.')?.[1]).toBe(false);
	});

	it('is nothing where no day is said', () => {
		expect(due('Use a ruler.')).toBeNull();
		expect(due('The lecture on 3 December 2026 covers weirs.')).toBeNull();
	});

	it.each([
		['A grace period of 15 minutes is given.', 15],
		['Late work is taken for two hours.', 120],
		['You have 90 minutes.', null],
		['Hand it in at the latest 10 minutes before noon.', null]
	])('and how long after: "%s" is %s', (text, minutes) =>
		expect(read(graceIn, text)?.value ?? null).toBe(minutes)
	);
});

describe('how many pages', () => {
	it.each([
		['4 to 6 pages', { min: 4, max: 6 }, true],
		['between three and five sides', { min: 3, max: 5 }, true],
		['at most 8 pages', { max: 8 }, true],
		['no more than ten pages', { max: 10 }, true],
		['fewer than 5 pages', { max: 4 }, true],
		['at least 2 and at most 4 pages', { min: 2, max: 4 }, true],
		['exactly 3 pages', { min: 3, max: 3 }, true],
		['Pages: 2-5', { min: 2, max: 5 }, true],
		['about 3 pages', { min: 3, max: 3 }, false],
		['At most 8 pages. At most 6 pages.', { max: 6 }, false]
	])('"%s" is %j', (text, bounds, sure) => {
		const found = read(pagesIn, text)!;
		expect([found.value, found.sure]).toEqual([bounds, sure]);
	});

	it.each([
		'Read 30 pages of the reader.',
		'one page per question',
		'page 3',
		'At least 9 and at most 4 pages.'
	])('is not said by "%s"', (text) => expect(read(pagesIn, text)).toBeNull());

	it('and on which paper, unless there is a choice', () => {
		expect(read(paperIn, 'Use A4 paper.')).toEqual({ value: 'A4', sure: true, words: ['A4'] });
		expect(read(paperIn, 'Letter-size or A4.')).toBeNull();
	});
});

describe('the file', () => {
	it.each([
		['one PDF', 'pdf', true],
		['a ZIP, not a PDF', 'zip', true],
		['a PDF or a zip', 'pdf', false],
		['no PDF', null, null]
	])('is of a type: "%s"', (text, value, sure) => {
		const found = read(typeIn, text);
		expect([found?.value ?? null, found?.sure ?? null]).toEqual([value, sure]);
	});

	it.each([
		['at most 10 MB', 10_000_000, true],
		['smaller than 2,5 megabytes', 2_500_000, true],
		['max. 800 kB', 800_000, true],
		['at most 10 MB, no file over 8 MB', 8_000_000, false],
		['The scan had 10 MB', null, null]
	])('is no larger than: "%s"', (text, value, sure) => {
		const found = read(sizeIn, text);
		expect([found?.value ?? null, found?.sure ?? null]).toEqual([value, sure]);
	});

	it.each([
		['in black and white', ['black-and-white'], true],
		['greyscale or B/W', ['black-and-white', 'greyscale'], true],
		['Colour scans are fine.', ['colour'], false],
		['no colour scans, greyscale only', ['greyscale'], true],
		['What colour is the water?', null, null]
	])('is in a tone: "%s"', (text, value, sure) => {
		const found = read(toneIn, text);
		expect(found?.value ? [...found.value].sort() : null).toEqual(value);
		expect(found?.sure ?? null).toBe(sure);
	});

	it.each([
		['called Family_Given_HW3', '{family}_{given}_HW3', true],
		['named LastnameFirstname-W3.pdf', '{family}{given}-W3', true],
		['save it as [surname]_W3', '{family}_W3', true],
		['Name the file "HY-2 Brandsma 3.pdf"', 'HY-2 Brandsma 3', true],
		['named Lastname_StudentID.pdf', '{family}_StudentID', false]
	])('has a name: "%s"', (text, value, sure) => {
		const found = read(nameIn, text);
		expect([found?.value, found?.sure]).toEqual([value, sure]);
	});

	it.each(['Call me.', 'A weir, so called because it dams.', 'named after a river'])(
		'has none by "%s"',
		(text) => expect(read(nameIn, text)).toBeNull()
	);
});

describe('the heading', () => {
	it.each([
		['Worksheet 3: Gauging the Lode', 'Worksheet 3: Gauging the Lode', true],
		['problem set 5', 'Problem set 5', true],
		['Homework 4 is due on Monday', 'Homework 4', true],
		['A file named Homework 4', null, null],
		['See exercise 3', null, null]
	])('"%s" is called %s', (text, value, sure) => {
		const found = read(titleIn, text);
		expect([found?.value ?? null, found?.sure ?? null]).toEqual([value, sure]);
	});

	it.each([
		['HY-2 Hydrology', 'HY-2', true],
		['Course BIO 101', 'BIO 101', true],
		['a PDF 2 of them', null, null],
		['file HY-2', null, null]
	])('"%s" is of course %s', (text, value, sure) => {
		const found = read(courseIn, text);
		expect([found?.value ?? null, found?.sure ?? null]).toEqual([value, sure]);
	});
});

describe('what was taken out of instructions', () => {
	const SHEET: RuleSheet = {
		title: 'Worksheet',
		questions: [{ label: '1' }, { label: '2' }],
		pages: { min: 1, size: 'A4' },
		file: { type: 'pdf' }
	};
	const of = <K extends Proposal['kind']>(kind: K, value: Extract<Proposal, { kind: K }>['value']) =>
		proposal(kind, value as never, [{ from: 0, to: 1 }]) as Proposal;

	it('goes into the rule sheet; what was not named stays', () => {
		expect(
			sheetWith(SHEET, [
				of('title', 'Weirs'),
				of('pages', { max: 4 }),
				of('maxBytes', 8_000_000),
				of('namePattern', '{family}'),
				of('tone', ['greyscale']),
				of('newPage', ['2'])
			])
		).toEqual({
			title: 'Weirs',
			questions: [{ label: '1' }, { label: '2', newPage: true }],
			pages: { size: 'A4', max: 4 },
			file: { type: 'pdf', maxBytes: 8_000_000, namePattern: '{family}' },
			tone: ['greyscale']
		});
		expect(sheetWith(SHEET, [])).toEqual(SHEET);
	});

	it('asks every question for a page of its own where that is said of all', () => {
		const { questions } = sheetWith(SHEET, [of('newPage', 'every')]);
		expect(questions.map((q) => q.newPage)).toEqual([true, true]);
	});

	it.each([
		[of('pages', { min: 3, max: 3 }), 'exactly 3'],
		[of('pages', { min: 2, max: 4 }), '2 to 4'],
		[of('pages', { min: 2 }), 'at least 2'],
		[of('pages', { max: 4 }), 'at most 4'],
		[of('grace', 15), '15 minutes'],
		[of('type', 'zip'), 'page images in a ZIP'],
		[of('maxBytes', 8_000_000), /^at most 8/],
		[of('newPage', 'every'), 'every question'],
		[of('newPage', ['3']), 'question 3'],
		[
			of('questions', [
				{ label: '1', marks: 4 },
				{ label: '2', marks: 6 }
			]),
			'1 and 2, 10 marks'
		]
	])('is said in words: %j', (one, says) => {
		const [about, said] = describeProposal(one);
		expect(about).not.toBe('');
		if (typeof says === 'string') expect(said).toBe(says);
		else expect(said).toMatch(says);
	});
});

describe('the text of a page', () => {
	const line = (text: string, x: number, y: number) => ({
		text,
		box: [x, y, x + 0.2, y + 0.03] as const,
		confidence: 0.9
	});

	it('runs from the top down, and along what stands in one row', () => {
		const lines = [line('below', 0.1, 0.3), line('right', 0.6, 0.105), line('left', 0.1, 0.1)];
		expect(textOfLines(lines)).toBe('left right\nbelow');
	});

	it('of no lines is none', () => {
		expect(textOfLines([])).toBe('');
	});
});
