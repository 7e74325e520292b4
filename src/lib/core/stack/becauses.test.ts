import { describe, expect, it } from 'vitest';
import { cutReasons, isNameRead, personReasons } from './becauses';
import type { Growing, PacketLikelihood } from './packetLikelihood';
import type { WrittenPage } from './stackPage';

/** A page that tells nothing, but for what is given. */
function page(change: Partial<WrittenPage> = {}): WrittenPage {
	return {
		names: Float64Array.of(1, 1, 1),
		nameRead: null,
		numbers: new Map(),
		labels: [],
		ends: { labelFirst: false },
		before: null,
		coveredBy: null,
		...change
	} as WrittenPage;
}
const named = (person: number, likelier = 200, nameRead: string | null = null) =>
	page({ names: Float64Array.of(1, 1, 1).fill(likelier, person, person + 1), nameRead });
const guess = (person: number | null, byElimination = false) => ({ person, confidence: 0.9, byElimination });
const judge = (alike = 0) =>
	({ first: { question: '1', part: 'a' }, handsAlike: () => alike }) as unknown as PacketLikelihood;
const before = (change: Partial<Growing> = {}) =>
	({ own: [0], rank: 0, total: null, lastNumber: 1, ...change }) as unknown as Growing;
/** Reasons for a cut between two pages. */
const between = (
	first: WrittenPage,
	second: WrittenPage,
	{ person = null as number | null, alike = 0, packet = {} as Partial<Growing> } = {}
) => cutReasons(judge(alike), [first, second], before(packet), 1, guess(person));

describe('why a packet begins with a page', () => {
	it('is that it could not be told otherwise, where nothing on the page says so', () => {
		expect(between(page(), page())).toEqual(['packets of this stack are about this long']);
	});

	it.each([
		['cover', 'a cover sheet before it'],
		['coloured', 'a coloured sheet before it'],
		['blank', 'a blank side before it']
	] as const)('is what lies before it: %s', (lies, reason) => {
		expect(between(page(), page({ before: lies }))).toEqual([reason]);
	});

	it('is another name, where the page before it does not carry the same', () => {
		expect(between(page(), named(1), { person: 1 })).toEqual(['another name']);
		expect(between(named(0), named(1), { person: 1 })).toEqual(['another name']);
		expect(between(named(1), named(1), { person: 1 })).not.toContain('another name');
		expect(between(page(), named(1, 19), { person: 1 })).not.toContain('another name');
	});

	it('is a page number 1, where that is what is read likeliest and surely enough', () => {
		const numbers = (...entries: [number, number][]) => page({ numbers: new Map(entries) });
		expect(between(page(), numbers([1, 9], [7, 4]))).toEqual(['page number 1']);
		expect(between(page(), numbers([1, 4], [7, 9]))).not.toContain('page number 1');
		expect(between(page(), numbers([1, 2]))).not.toContain('page number 1');
	});

	it('is that the first question begins again behind a later one', () => {
		const label = (question: string, part: string | null, labelFirst = true) =>
			page({
				ends: { labelFirst } as WrittenPage['ends'],
				labels: [[{ question, part, probability: 0.9 }]]
			});
		const later = { packet: { rank: 3 } };
		expect(between(page(), label('1', 'a'), later)).toEqual(['question 1 begins again']);
		expect(between(page(), label('1', null), later)).toEqual(['question 1 begins again']);
		const others = [label('1', 'b'), label('2', null), label('1', 'a', false)];
		for (const other of others) expect(between(page(), other, later)[0]).toMatch(/about this long/);
		expect(between(page(), label('1', 'a'))[0]).toMatch(/about this long/);
	});

	it('is that the page before it is the last of those that its packet has by its own count', () => {
		const counted = (of: number, lastNumber: number, chance = 0.9) => ({
			packet: { total: { of, chance }, lastNumber }
		});
		expect(between(page(), page(), counted(4, 4))).toEqual(['page 4 of 4 comes before it']);
		expect(between(page(), page(), counted(4, 3))[0]).toMatch(/about this long/);
		expect(between(page(), page(), counted(4, 4, 0.4))[0]).toMatch(/about this long/);
	});

	it('is another hand', () => {
		expect(between(page(), page(), { alike: -1.5 })).toEqual(['another hand']);
		expect(between(page(), page(), { alike: -0.5 })[0]).toMatch(/about this long/);
	});

	it('names all of them', () => {
		const first = { ...named(2), numbers: new Map([[1, 9]]), before: 'cover' } as WrittenPage;
		expect(between(page(), first, { person: 2, alike: -3 })).toEqual([
			'a cover sheet before it',
			'another name',
			'page number 1',
			'another hand'
		]);
	});
});

describe('why a packet is a person’s', () => {
	it('is where their name stands, and what it was read as', () => {
		const list = [named(1, 200, 'Tobias Okoro'), page(), named(1), named(0)];
		expect(personReasons(guess(1), [0, 1], list)).toEqual(['name on page 1: “Tobias Okoro”']);
		expect(personReasons(guess(1), [1, 2], list)).toEqual(['name on page 2']);
		expect(personReasons(guess(1), [0, 2], list)).toEqual(['name on every page: “Tobias Okoro”']);
		expect(personReasons(guess(1), [0, 1, 2], list)).toEqual(['name on pages 1, 3: “Tobias Okoro”']);
	});

	it('is their cover sheet; somebody else’s is said as well', () => {
		const covered = (by: number, one = page()) => ({ ...one, coveredBy: by });
		expect(personReasons(guess(1), [0], [covered(1)])).toEqual(['their cover sheet lies before it']);
		expect(personReasons(guess(1), [0], [covered(0, named(1))])).toEqual([
			'name on page 1',
			'somebody else’s cover sheet lies before it'
		]);
	});

	it('is that all others have one, or that nothing tells against it; of nobody there is none', () => {
		expect(personReasons(guess(1, true), [0], [named(1)])).toEqual(['everybody else has a packet']);
		expect(personReasons(guess(1), [0], [page()])).toEqual([
			'the likeliest of those who have no other packet'
		]);
		expect(personReasons(guess(null), [0], [page()])).toEqual([]);
	});
});

describe('a name', () => {
	it('was read where one page says it clearly, or two do halfway', () => {
		expect(isNameRead([named(1, 150), page()], 1)).toBe(true);
		expect(isNameRead([named(1, 50), named(1, 50)], 1)).toBe(true);
		expect(isNameRead([named(1, 50), page()], 1)).toBe(false);
		expect(isNameRead([named(0, 150)], 1)).toBe(false);
	});
});
