import { page } from '../../../../tests/support/page';
import { describe, expect, it } from 'vitest';
import { label, reading } from '../../../../tests/support/reading';
import { EMPTY_PACKET } from '../packet/packet';
import type { PageRecord } from '../page/pageRecord';
import type { PageFacts } from '../page/preparePage';
import { judge } from './judgement';

const record = (change: Partial<PageRecord>): PageRecord => ({
	key: 'k',
	picture: null,
	problem: null,
	prepared: {
		blank: false,
		fingerprint: '',
		legibility: { score: 0.9, verdict: 'clear', profile: [] }
	} as unknown as PageFacts,
	bytes: 10,
	weights: null,
	reading: null,
	name: null,
	otherPerson: null,
	sourceName: 'a.jpg',
	takenAt: null,
	...change
});
const TEXTS = Array.from({ length: 12 }, (_, i) => `line ${i} of the writing here`);
const INPUT = {
	sheet: { title: 'W', questions: [{ label: '1' }, { label: '2' }], pages: { min: 3 } },
	packet: { ...EMPTY_PACKET, pages: { p: page('p'), q: page('q') }, strip: ['q', 'p'] },
	person: { given: 'Ilka', family: 'Brandsma' }
};

describe('judge', () => {
	const first = record({ reading: reading({ labels: [label(0.1, '1')], texts: TEXTS }) });
	const second = record({ reading: reading({ labels: [label(0.1, '2')], texts: TEXTS }) });

	it('says what the rules find, which order is read off the pages, and where questions begin', () => {
		const { findings, order, seams } = judge({ ...INPUT, records: { p: first, q: second } });
		expect(findings.find((f) => f.rule === 'pageCount')).toMatchObject({ level: 'blocks' });
		expect(findings.some((f) => f.rule === 'due')).toBe(false);
		expect(order!.strip.map((s) => s.page)).toEqual(['p', 'q']);
		expect(seams.map((s) => [s.page, s.questions])).toContainEqual(['p', ['1']]);
	});

	it('proposes no order before every page is read, or is known to be unusable', () => {
		const unread = record({});
		expect(judge({ ...INPUT, records: { p: first, q: unread } }).order).toBeNull();
		expect(
			judge({ ...INPUT, records: { p: first, q: { ...unread, problem: 'It is torn.' } } }).order
		).not.toBeNull();
	});
});
