import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { label, reading } from '../../../../tests/support/reading';
import { endsOf, sameSubject, subjectOfAll } from './continuation';

const WEIR = ['the weir notch was read again', 'crest height over the notch plate', 'weir crest level'];
const PEAT = ['peat probes sank into soft bank', 'reeds and peat along the bank', 'soft peat under reeds'];
const MANY = (lines: readonly string[]) => Array.from({ length: 8 }, (_, i) => lines[i % lines.length]!);
const ends = (texts: readonly string[], more: Partial<Parameters<typeof reading>[0]> = {}) =>
	endsOf({ reading: reading({ texts: [...texts], ...more }) });

describe('what a page is about', () => {
	const [weir, again, peat] = [ends(MANY(WEIR)), ends(MANY([...WEIR].reverse())), ends(MANY(PEAT))].map(
		(e) => e.whole
	) as [ReturnType<typeof ends>['whole'], ReturnType<typeof ends>['whole'], ReturnType<typeof ends>['whole']];
	const packet = subjectOfAll([weir, again, peat]);

	it('is told from what the packet is about otherwise, both ways alike', () => {
		expect(sameSubject(weir, again, packet)).toBeGreaterThan(0.1);
		expect(sameSubject(weir, peat, packet)).toBeLessThan(0);
		expect(sameSubject(weir, again, packet)).toBeCloseTo(sameSubject(again, weir, packet), 12);
	});

	it('outlives a misread letter in each word, and counts for less', () => {
		const misread = ends(MANY(WEIR).map((line) => line.replace(/(\w{3})\w(\w)/g, '$1q$2'))).whole;
		const all = subjectOfAll([weir, misread, peat]);
		expect(sameSubject(weir, misread, all)).toBeGreaterThan(sameSubject(peat, misread, all));
		expect(sameSubject(weir, misread, all)).toBeLessThan(sameSubject(weir, again, packet));
	});

	it('is not known of nothing, and hardly of a few words', () => {
		const nothing = ends([]).whole;
		expect(sameSubject(nothing, weir, packet)).toBe(0);
		const few = ends(['weir notch']).whole;
		expect(Math.abs(sameSubject(few, weir, packet))).toBeLessThan(sameSubject(weir, again, packet) / 2);
	});

	it('adds up over pages, whatever their order', () => {
		fc.assert(
			fc.property(fc.shuffledSubarray([weir, again, peat], { minLength: 1 }), (pages) => {
				const { counts, all } = subjectOfAll(pages);
				expect(all).toBe(pages.reduce((sum, p) => sum + p.all, 0));
				expect([...counts.values()].reduce((a, b) => a + b, 0)).toBe(all);
			})
		);
	});
});

describe('how a page’s writing begins and ends', () => {
	it('is inside a sentence or not, by its first and its last letter', () => {
		const whole = ends(['The mean was taken twice', 'and noted at the end.']);
		expect([whole.goesOn < 0.2, whole.breaksOff < 0.2]).toEqual([true, true]);
		const part = ends(['depth was then added to', 'all that had been read and']);
		expect([part.goesOn > 0.8, part.breaksOff > 0.8]).toEqual([true, true]);
	});

	it('is less sure of letters that hands write alike, large and small', () => {
		const [sure, unsure] = [ends(['The mean']), ends(['So the mean'])];
		expect(unsure.goesOn).toBeGreaterThan(sure.goesOn);
		expect(unsure.goesOn).toBeLessThan(ends(['so the mean']).goesOn);
	});

	it('is not known while only the beginnings of lines have been read', () => {
		const read = { ...reading({ texts: ['The mean was taken', 'twice'] }), startsOnly: true as const };
		const { goesOn, breaksOff } = endsOf({ reading: read });
		expect([goesOn, breaksOff]).toEqual([0.5, 0.5]);
	});

	it('begins with a label where one stands no lower than the first line', () => {
		const texts = MANY(WEIR);
		expect(ends(texts, { labels: [label(0.08, '2')] }).labelFirst).toBe(true);
		expect(ends(texts, { labels: [label(0.6, '2')] }).labelFirst).toBe(false);
	});

	it('parts what stands before the first label from what stands behind the last', () => {
		const texts = [...MANY(WEIR), ...MANY(PEAT)];
		const lines = reading({ texts }).lines;
		const { head, tail } = ends(texts, { labels: [label(lines[8]!.box[1], '2')] });
		const weir = ends(MANY(WEIR)).whole;
		const all = subjectOfAll([head, tail]);
		expect(sameSubject(head, weir, all)).toBeGreaterThan(0);
		expect(sameSubject(tail, weir, all)).toBeLessThan(0);
	});
});
