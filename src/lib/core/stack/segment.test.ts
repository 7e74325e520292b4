import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Growing, PacketLikelihood } from './packetLikelihood';
import { segment, TEMPERED } from './segment';

/** Judges runs of pages by a table of its own; a packet may take a page in as its own or as somebody else's. */
function judgeBy(
	value: (own: readonly number[], strays: readonly number[]) => number,
	between = 0,
	apart: (before: readonly number[], next: readonly number[]) => number = () => 0
) {
	const grown = (own: readonly number[], strays: readonly number[], last: number) =>
		({ own, strays, last }) as unknown as Growing;
	return {
		begin: (first: number) => grown([first], [], first),
		extend: ({ own, strays }: Growing, next: number) => [
			grown([...own, next], strays, next),
			grown(own, [...strays, next], next)
		],
		between: () => between,
		behind: (a: Growing, b: Growing) => apart(a.own, b.own),
		open: ({ own, strays }: Growing) => value(own, strays),
		whole: ({ own, strays, last }: Growing) => (strays.at(-1) === last ? -Infinity : value(own, strays))
	} as unknown as PacketLikelihood;
}

/** All ways to part so many pages into runs of at most `longest`, as the places where they begin. */
function allCuts(count: number, longest: number): number[][] {
	const from = (at: number): number[][] =>
		at === count
			? [[]]
			: Array.from({ length: Math.min(longest, count - at) }, (_, k) => at + k + 1).flatMap((to) =>
					from(to).map((rest) => [at, ...rest])
				);
	return from(0);
}

const key = (own: readonly number[]) => `${own[0]} ${own.at(-1)}`;
const COUNT = 6;
const table = fc.dictionary(
	fc.constantFrom(
		...Array.from({ length: COUNT }, (_, a) => a).flatMap((a) =>
			Array.from({ length: COUNT - a }, (_, n) => `${a} ${a + n}`)
		)
	),
	fc.double({ min: -6, max: 0, noNaN: true })
);

describe('where packets end', () => {
	it('is the likeliest of all ways to part the pages', () => {
		fc.assert(
			fc.property(table, fc.integer({ min: 2, max: COUNT }), (values, longest) => {
				// Nobody's pages lie among them here; what two packets say of each other hangs on where both begin and end.
				const value = (own: readonly number[], strays: readonly number[]) =>
					strays.length > 0 ? -100 : (values[key(own)] ?? -3);
				const joint = (before: readonly number[], next: readonly number[]) =>
					-((7 * before[0]! + 3 * next.at(-1)!) % 5);
				const { segments, begins, value: got } = segment(judgeBy(value, 0, joint), COUNT, longest);
				const run = (a: number, b: number) => Array.from({ length: b - a }, (_, i) => a + i);
				const worth = (cuts: readonly number[]) => {
					const runs = cuts.map((a, i) => run(a, cuts[i + 1] ?? COUNT));
					return runs.reduce(
						(sum, own, i) => sum + value(own, []) + (i > 0 ? joint(runs[i - 1]!, own) : 0),
						0
					);
				};
				const ways = allCuts(COUNT, longest);
				const best = Math.max(...ways.map(worth));
				expect(got).toBeCloseTo(best, 9);
				const share = (some: readonly number[][]) =>
					some.reduce((sum, cuts) => sum + Math.exp(TEMPERED * worth(cuts)), 0);
				for (let page = 0; page < COUNT; page++) {
					const through = ways.filter((cuts) => cuts.includes(page));
					expect(begins[page]).toBeCloseTo(share(through) / share(ways), 9);
				}
				expect(worth(segments.map((s) => s.from))).toBeCloseTo(best, 9);
			})
		);
	});

	it('is gone through without a gap, and never in a packet longer than is thought of', () => {
		fc.assert(
			fc.property(table, fc.integer({ min: 1, max: COUNT }), (values, longest) => {
				const { segments } = segment(
					judgeBy((own) => values[key(own)] ?? -3),
					COUNT,
					longest
				);
				expect(segments.map((s) => s.to)).toEqual([...segments.slice(1).map((s) => s.from), COUNT]);
				for (const { from, to, confidence } of segments) {
					expect(to - from).toBeLessThanOrEqual(longest);
					expect(confidence).toBeGreaterThanOrEqual(0);
					expect(confidence).toBeLessThanOrEqual(1);
				}
			})
		);
	});

	it('is as sure of each place as ways go through it, where all ways are alike', () => {
		const longest = 3;
		const { begins } = segment(
			judgeBy((_, strays) => (strays.length > 0 ? -1000 : 0)),
			COUNT,
			longest
		);
		const ways = allCuts(COUNT, longest);
		for (let page = 0; page < COUNT; page++) {
			const through = ways.filter((cuts) => cuts.includes(page)).length;
			expect(begins[page]).toBeCloseTo(through / ways.length, 9);
		}
	});

	it('lets a page of somebody else lie in the middle of a packet, but not end it', () => {
		// Pages 0 to 4 are one packet's but for page 2; page 5 is nobody's, and cannot be left over at the end.
		const odd = new Set([2, 5]);
		const value = (own: readonly number[], strays: readonly number[]) =>
			own.filter((p) => odd.has(p)).length * (own.length > 1 ? -20 : -1) - 2 * strays.length - 3;
		const { segments } = segment(judgeBy(value), COUNT, COUNT);
		expect(segments.map(({ from, to }) => [from, to])).toEqual([
			[0, 5],
			[5, 6]
		]);
		expect(segments[0]!.packet.strays).toEqual([2]);
	});

	it('asks what lies between two packets once for each place where one begins, and not at the very start', () => {
		const single = segment(
			judgeBy((own) => (own.length > 1 ? -50 : 0), -2),
			4,
			4
		);
		expect(single.segments).toHaveLength(4);
		expect(single.value).toBeCloseTo(3 * -2, 9);
	});
});
