import { describe, expect, it } from 'vitest';
import { answerables } from '../src/lib/core/assignment/question';
import { personOf, samplePacket, type SamplePacket } from './packets';
import { asSaid } from './shortWriting';

const SEEDS = Array.from({ length: 40 }, (_, i) => 300 + i);
const packets = SEEDS.map((seed) => samplePacket(seed));
/** Its pages in their true sequence, each once. */
const sequence = ({ pages }: SamplePacket) =>
	pages.filter((p) => p.role === 'page').sort((a, b) => a.position! - b.position!);

describe('a made-up packet', () => {
	it('is the same again from its seed, and another from another', () => {
		expect(samplePacket(300)).toEqual(packets[0]);
		expect(new Set(packets.map((p) => JSON.stringify(p))).size).toBe(packets.length);
	});

	it('has its pages once each, in a sequence without a gap, but for what is left out', () => {
		for (const packet of packets) {
			const positions = sequence(packet).map((p) => p.position);
			expect(new Set(positions).size).toBe(positions.length);
			const all = [...positions, ...packet.missing].sort((a, b) => a! - b!);
			expect(all).toEqual(all.map((_, i) => i + 1));
			const numbers = sequence(packet).flatMap((p) => p.number ?? []);
			expect(numbers).toEqual([...numbers].sort((a, b) => a - b));
			for (const missing of packet.missing) expect(numbers).not.toContain(missing);
		}
	});

	it('has numbers on all pages of its own, or on none', () => {
		for (const packet of packets) {
			const numbered = sequence(packet).map((p) => p.number !== null);
			expect(new Set(numbered).size).toBe(1);
			expect(numbered[0]).toBe(packet.numbered);
		}
	});

	it('answers what its sheet asks, in order, and nothing else', () => {
		for (const { sheet, seams, pages, missing } of packets) {
			const asked = answerables(sheet.questions).map((a) => a.id);
			const answered = seams.flatMap((s) => s.questions);
			expect(answered.filter((id) => !asked.includes(id))).toEqual([]);
			const places = seams.map((s) => s.position + s.y);
			expect(places).toEqual([...places].sort((a, b) => a - b));
			const last = pages.filter((p) => p.role === 'page').length + missing.length;
			for (const { position } of seams) {
				expect(position).toBeGreaterThanOrEqual(1);
				expect(position).toBeLessThanOrEqual(last);
			}
		}
	});

	it('is of a person of its roster, in which nobody is twice; a page of another names another', () => {
		for (const { person, roster, pages } of packets) {
			expect(roster).toContain(person);
			expect(new Set(roster).size).toBe(roster.length);
			for (const { role, named } of pages) {
				if (role === 'page') expect([person, null]).toContain(named);
				if (role === 'foreign' && named) expect(named).not.toBe(person);
			}
		}
	});

	it('comes with all that goes wrong in packets, over some of them', () => {
		const roles = new Set(packets.flatMap((p) => p.pages.map((page) => page.role)));
		expect([...roles].sort()).toEqual(['blank', 'duplicate', 'foreign', 'page']);
		expect(packets.some((p) => p.missing.length > 0)).toBe(true);
		expect(packets.some((p) => p.pages.some((page) => page.blur > 0))).toBe(true);
		expect(
			packets.some((p) => p.pages.some((page, i) => page.position !== null && page.position !== i + 1))
		).toBe(true);
	});

	it('is named as a person with a given and a family name', () => {
		expect(personOf('Ilka Brandsma')).toMatchObject({ given: 'Ilka', family: 'Brandsma' });
	});
});

describe('what a page by itself can say of a label', () => {
	const label = (text: string, question: string | undefined, y: number) =>
		({ text, question, x: 0.1, y }) as Parameters<typeof asSaid>[0];

	it('is its question where it names one', () => {
		const one = label('Q3 (b)', '3b', 0.4);
		expect(asSaid(one, [one])).toBe('3b');
	});

	it('is its part where the question stands on the page before', () => {
		const one = label('(b)', '3b', 0.4);
		expect(asSaid(one, [one])).toBe('b');
		expect(asSaid(one, [one, label('Q2', '2', 0.2)])).toBe('b');
		expect(asSaid(one, [one, label('Q3', '3', 0.8)])).toBe('b');
	});

	it('is all of it where the question was named above', () => {
		const one = label('(b)', '3b', 0.4);
		expect(asSaid(one, [one, label('3 (a)', '3a', 0.2)])).toBe('3b');
	});

	it('is not known of another person’s page', () => {
		const one = label('(b)', undefined, 0.4);
		expect(asSaid(one, [one])).toBeUndefined();
	});
});
