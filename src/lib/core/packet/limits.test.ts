import { describe, expect, it } from 'vitest';
import { page } from '../../../../tests/support/page';
import { overLimits, PACKET_LIMITS } from './limits';
import { EMPTY_PACKET, type Packet, type Page, type Seam } from './packet';

const marked = (id: string, marks: number): Page =>
	page(id, { marks: Array.from({ length: marks }, () => ({}) as NonNullable<Page['marks']>[number]) });
const pages = (count: number, marks = 0) =>
	Object.fromEntries(Array.from({ length: count }, (_, i) => [`p${i}`, marked(`p${i}`, marks)]));
const seam = (id: number, questions = 1): Seam => ({
	id: `s${id}`,
	page: 'p0',
	y: 0.5,
	questions: Array.from({ length: questions }, (_, i) => `${i}`)
});
const seams = (count: number, questions = 1) => Array.from({ length: count }, (_, i) => seam(i, questions));
const said = (change: Partial<Packet>) => overLimits({ ...EMPTY_PACKET, ...change });

describe('what a packet may hold', () => {
	it('is nothing of note, and as much as the limits say', () => {
		expect(said({})).toBeNull();
		expect(said({ pages: pages(PACKET_LIMITS.pages), seams: seams(PACKET_LIMITS.seams) })).toBeNull();
		expect(said({ seams: [seam(1, PACKET_LIMITS.questionsOfSeam)] })).toBeNull();
		expect(said({ pages: pages(1, PACKET_LIMITS.marksOfPage) })).toBeNull();
	});

	it.each([
		['pages', { pages: pages(PACKET_LIMITS.pages + 1) }, 'at most 1000 pages; this would make it 1001.'],
		['seams', { seams: seams(PACKET_LIMITS.seams + 1) }, 'at most 1000 seams; this would make it 1001.'],
		[
			'questions of a seam',
			{ seams: [seam(1, 61)] },
			'at most 60 questions on one seam; this would make it 61.'
		],
		[
			'questions of all',
			{ seams: seams(80, 60) },
			'at most 4000 questions on its seams; this would make it 4800.'
		],
		[
			'questions not attempted',
			{ notAttempted: Array.from({ length: 501 }, (_, i) => `${i}`) },
			'at most 500 questions not attempted; this would make it 501.'
		],
		[
			'marks of a page',
			{ pages: pages(1, PACKET_LIMITS.marksOfPage + 1) },
			`at most ${PACKET_LIMITS.marksOfPage} things added to one page; this would make it ${PACKET_LIMITS.marksOfPage + 1}.`
		]
	] as const)('is no more than that: %s', (_, change, says) => {
		expect(said(change)).toBe(`A packet holds ${says}`);
	});
});
