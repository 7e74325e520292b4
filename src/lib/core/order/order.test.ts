import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cluesOfPage } from '../../../../tests/support/clues';
import { label, option, reading } from '../../../../tests/support/reading';
import { apply } from '../packet/change';
import { EMPTY_PACKET, type Packet, type Page } from '../packet/packet';
import { acceptMove, acceptOrder, orderKey, proposedMoves } from './acceptOrder';
import { bestSequence, nearby } from './bestSequence';
import { interleave } from './interleave';
import { ORDER_WEIGHTS } from './orderWeights';
import type { PageClues } from './pageClues';
import { headerEnds } from './pageHeader';
import { risingNumbers, settleNumbers } from './pageNumbers';
import { proposeOrder } from './proposeOrder';
import { sequenceJudge, SEQUENCE_FEATURES } from './sequenceScore';

const QUESTIONS = [
	{ label: '1' },
	{ label: '2', parts: [{ label: 'a' }, { label: 'b' }, { label: 'c' }] },
	{ label: '3' },
	{ label: '4' }
];
const FULL = Array.from({ length: 24 }, (_, i) => `line ${i} of the writing on this page.`);

const clues = (page: string, change: Partial<PageClues> = {}) =>
	cluesOfPage(page, { reading: reading({ texts: FULL }), ...change });
const numbered = (page: string, number: number, of: number | null = null, probability = 0.95) =>
	clues(page, { reading: reading({ texts: FULL, numbers: [{ number, of, probability }] }) });
const labelled = (page: string, ...names: string[]) =>
	clues(page, { reading: reading({ texts: FULL, labels: names.map((n, i) => label(0.09 + 0.2 * i, n)) }) });
const sequence = (pages: readonly PageClues[]) => proposeOrder(pages, QUESTIONS).strip.map((s) => s.page);

describe('bestSequence', () => {
	it('finds an order in which two pages have to change places at once', () => {
		// Page 1 and page 3 may only stand where the other is; alone, either is worse anywhere else.
		const good = new Set(['0-3', '3-2', '2-1', '1-4']);
		const bad = new Set(['0-2', '2-4', '1-3', '3-1', '0-4']);
		const score = (s: readonly number[]) =>
			s.reduce((sum, page, i) => {
				const pair = `${s[i - 1]}-${page}`;
				return sum + (good.has(pair) ? 3 : bad.has(pair) ? -2 : i > 0 && page === s[i - 1]! + 1 ? 2 : 0);
			}, 0);
		const { sequence } = bestSequence([[0, 1, 2, 3, 4]], score);
		expect(sequence).toEqual([0, 3, 2, 1, 4]);
	});

	it('is never worse than where it began', () => {
		fc.assert(
			fc.property(
				fc.array(fc.array(fc.integer({ min: -9, max: 9 }), { minLength: 7, maxLength: 7 }), {
					minLength: 7,
					maxLength: 7
				}),
				(table) => {
					const score = (s: readonly number[]) =>
						s.reduce((sum, b, i) => (i > 0 ? sum + table[s[i - 1]!]![b]! : 0), 0);
					const start = [0, 1, 2, 3, 4, 5, 6];
					const { sequence, confidences } = bestSequence([start], score);
					expect([...sequence].sort()).toEqual(start);
					expect(score(sequence)).toBeGreaterThanOrEqual(score(start));
					expect(confidences.every((c) => c > 0 && c <= 1)).toBe(true);
				}
			),
			{ numRuns: 30 }
		);
	});

	it('looks at each order near another once, of few pages and of many', () => {
		for (const n of [5, 24, 43]) {
			const start = Array.from({ length: n }, (_, i) => i);
			const near = [...nearby(start)].map(String);
			expect(new Set(near).size).toBe(near.length);
			expect(near).not.toContain(String(start));
			// Every page somewhere else, of which a move to the next place is two pages' at once.
			expect(near.length).toBeGreaterThanOrEqual((n - 1) ** 2);
		}
	});

	it('is as sure of a place as the orders that agree on it are likely', () => {
		// Of two orders one is three times as likely.
		const odds = (s: readonly number[]) => (s[0] === 0 ? Math.log(3) : 0);
		for (const sure of bestSequence([[1, 0]], odds).confidences) expect(sure).toBeCloseTo(0.75, 6);
		// Page 2 may stand anywhere behind page 0, and page 1 too.
		const { sequence, confidences } = bestSequence([[0, 1, 2]], (s) => (s[0] === 0 ? 9 : 0));
		expect(sequence[0]).toBe(0);
		expect(confidences[0]).toBeGreaterThan(0.99);
		expect(confidences[1]).toBeCloseTo(0.5, 2);
	});
});

describe('proposeOrder', () => {
	it('goes by page numbers, in whatever order pages came', () => {
		const pages = ['a', 'b', 'c', 'd', 'e', 'f'].map((page, i) => numbered(page, i + 1, 6));
		fc.assert(
			fc.property(fc.shuffledSubarray(pages, { minLength: 6 }), (shuffled) => {
				expect(sequence(shuffled)).toEqual(['a', 'b', 'c', 'd', 'e', 'f']);
			}),
			{ numRuns: 40 }
		);
	});

	it('goes by labels, and puts "(b)" behind the part before it', () => {
		const pages = [
			labelled('p1', '1', '2a'),
			labelled('p2', 'b'),
			labelled('p3', 'c', '3'),
			labelled('p4', '4')
		];
		fc.assert(
			fc.property(fc.shuffledSubarray(pages, { minLength: 4 }), (shuffled) => {
				expect(sequence(shuffled)).toEqual(['p1', 'p2', 'p3', 'p4']);
			}),
			{ numRuns: 24 }
		);
	});

	it('takes what a person said a page answers for what its label says, and hears when a label is put away', () => {
		const pages = [labelled('p1', '1'), labelled('p2', '4'), labelled('p3', '3')];
		expect(sequence(pages)).toEqual(['p1', 'p3', 'p2']);
		const said = pages.map((p) => (p.page === 'p2' ? { ...p, seams: [{ y: 0.1, questions: ['2a'] }] } : p));
		expect(sequence(said)).toEqual(['p1', 'p2', 'p3']);
		// With its label put away, nothing holds p2 back from where its file name has it.
		const declined = pages.map((p) => ({ ...p, declined: ['p2 4'] }));
		expect(sequence(declined)).toEqual(['p1', 'p2', 'p3']);
	});

	it('goes by what is written, though all pages come in one file in another order', () => {
		const inFile = (pages: readonly PageClues[]) =>
			pages.map((p, i) => ({ ...p, place: { source: 'scan.pdf', page: i } }));
		const byNumber = [4, 2, 6, 1, 5, 3].map((n) => numbered(`p${n}`, n));
		expect(sequence(inFile(byNumber))).toEqual(['p1', 'p2', 'p3', 'p4', 'p5', 'p6']);
		const byLabel = [
			labelled('p3', '3'),
			labelled('p1', '1'),
			labelled('p4', '4'),
			labelled('p2', '2a', 'b')
		];
		expect(sequence(inFile(byLabel))).toEqual(['p1', 'p2', 'p3', 'p4']);
		// Where nothing is written that tells, they stay as they are in the file.
		expect(sequence(inFile([clues('x'), clues('b'), clues('k')]))).toEqual(['x', 'b', 'k']);
	});

	it('lets no label that is likely none lead pages astray', () => {
		const doubtful = { ...label(0.3, 'c', 0.5), options: [option('c', 0.5)] };
		const pages = [
			labelled('p1', '1'),
			clues('p2', { reading: reading({ texts: FULL, labels: [label(0.09, '2a'), doubtful] }) }),
			labelled('p3', '2b', '2c'),
			labelled('p4', '3'),
			labelled('p5', '4')
		];
		expect(sequence(pages)).toEqual(['p1', 'p2', 'p3', 'p4', 'p5']);
		expect(sequence([...pages].reverse())).toEqual(['p1', 'p2', 'p3', 'p4', 'p5']);
		// The way that is taken through the labels passes the doubtful one over.
		const judge = sequenceJudge(pages, QUESTIONS);
		const gone = judge.describe([0, 1, 2, 3, 4])[SEQUENCE_FEATURES.indexOf('labels: one goes back')];
		expect(gone).toBe(0);
		expect(judge.describe([0, 1, 2, 4, 3])[SEQUENCE_FEATURES.indexOf('labels: one goes back')]).toBe(1);
	});

	it('begins with the page on which the first question begins, whatever else might stand before it', () => {
		const pages = [
			clues('p1', { reading: reading({ texts: FULL.map((t) => t.replace('.', ' then')) }) }),
			labelled('p2', '1'),
			labelled('p3', '3')
		];
		expect(sequence(pages)[0]).toBe('p2');
	});

	it('describes a sequence by what it is scored by', () => {
		const pages = [numbered('a', 2), labelled('b', '1', '2a'), labelled('c', 'b', '4'), numbered('d', 1)];
		const judge = sequenceJudge(pages, QUESTIONS);
		const weighed = (s: readonly number[]) =>
			judge.describe(s).reduce((sum, value, k) => sum + value * ORDER_WEIGHTS[k]!, 0);
		// File names and places are not among what describes it: they go the other way round, a little.
		const differences = [...nearby([0, 1, 2, 3])].map((s) => judge.score(s) - weighed(s));
		expect(Math.max(...differences.map(Math.abs))).toBeLessThan(0.3);
		expect(judge.describe([0, 1, 2, 3])).toHaveLength(SEQUENCE_FEATURES.length);
		expect(ORDER_WEIGHTS).toHaveLength(SEQUENCE_FEATURES.length);
	});

	it('puts the one page with a name first', () => {
		const pages = ['a', 'b', 'c'].map((page) => clues(page, { named: page === 'c' }));
		expect(sequence(pages)[0]).toBe('c');
	});

	it('lets no page end within a sentence when another goes on', () => {
		const rest = FULL.slice(0, 20);
		const pages = [
			clues('a', { reading: reading({ texts: [...FULL, 'and the rod'], labels: [label(0.09, '1')] }) }),
			clues('b', { reading: reading({ texts: ['then sank into the peat.', ...rest] }) }),
			clues('c', { reading: reading({ texts: [...FULL, 'it came to rest.'], labels: [label(0.09, '2')] }) })
		];
		expect(sequence(pages)).toEqual(['a', 'b', 'c']);
		expect(sequence([...pages].reverse())).toEqual(['a', 'b', 'c']);
	});

	it('leaves no page half empty before a label, where labels follow each other down the page', () => {
		const short = FULL.slice(0, 6);
		const pages = [
			labelled('a', '1', '2a', '2b'),
			clues('b', { reading: reading({ texts: short }) }),
			labelled('c', '2c', '3', '4')
		];
		expect(sequence(pages)).toEqual(['a', 'c', 'b']);
	});

	it('puts a page without a label where the one before breaks off', () => {
		const texts = (last: string) => [...FULL.slice(0, 20), last];
		const pages = [
			clues('a', {
				reading: reading({ texts: texts('and the velocity of the current over'), labels: [label(0.09, '1')] })
			}),
			clues('b', { reading: reading({ texts: texts('which ends it.'), labels: [label(0.09, '3')] }) }),
			clues('c', { reading: reading({ texts: ['the velocity of the current was', ...FULL.slice(0, 6)] }) })
		];
		expect(sequence([pages[1]!, pages[2]!, pages[0]!])).toEqual(['a', 'c', 'b']);
	});

	it('puts a page without a label where the one before is about the same, though letters are misread', () => {
		const SALT = [
			'salt in the bottle dilutes until the',
			'probe shows the plateau of the tracer',
			'background conductivity of the sample'
		];
		const WEIR = [
			'the weir crest and the nappe below it',
			'the gauge level over the notch plate',
			'discharge by the coefficient of heads'
		];
		const about = (lines: readonly string[]) => Array.from({ length: 24 }, (_, i) => lines[i % 3]! + '.');
		const misread = (lines: readonly string[]) =>
			lines.map((l) => l.replace('ott', 'otH').replace('eve', 'ere'));
		for (const [before, after] of [
			[SALT, WEIR],
			[WEIR, SALT]
		] as const) {
			const pages = [
				clues('b', { reading: reading({ texts: misread(about(SALT)) }) }),
				clues('a', { reading: reading({ texts: about(before), labels: [label(0.09, '1')] }) }),
				clues('c', { reading: reading({ texts: about(after), labels: [label(0.09, '3')] }) })
			];
			expect(sequence(pages)).toEqual(before === SALT ? ['a', 'b', 'c'] : ['a', 'c', 'b']);
		}
	});

	it('puts no part behind a question that has no such part, nor any after it', () => {
		const pages = [
			labelled('a', '1', '2a', '2b'),
			labelled('b', 'c'),
			labelled('c', '3'),
			labelled('d', '4')
		];
		for (const some of [pages, [...pages].reverse(), [pages[2]!, pages[3]!, pages[1]!, pages[0]!]]) {
			expect(sequence(some)).toEqual(['a', 'b', 'c', 'd']);
		}
	});

	it('falls back on file names, and then the order in which pages came in plays no part', () => {
		const pages = ['scan 2', 'scan 10', 'scan 1'].map((name) => clues(name));
		expect(sequence(pages)).toEqual(['scan 1', 'scan 2', 'scan 10']);
		expect(sequence([...pages].reverse())).toEqual(['scan 1', 'scan 2', 'scan 10']);
	});

	it('says why, and names missing numbers', () => {
		const order = proposeOrder([numbered('a', 1, 5), numbered('b', 2, 5), numbered('c', 4, 5)], QUESTIONS);
		expect(order.missing).toEqual([3, 5]);
		expect(order.strip.map((s) => s.reason)).toEqual([
			'It reads page 1 of 5.',
			'It reads page 2 of 5.',
			'It reads page 4 of 5.'
		]);
		// A page without a number may be the missing one.
		const filled = proposeOrder([numbered('a', 1, 3), clues('b'), numbered('c', 3, 3)], QUESTIONS);
		expect(filled.strip.map((s) => s.page)).toEqual(['a', 'b', 'c']);
		expect(filled.missing).toEqual([]);
	});

	it('sets aside blanks, the worse picture of a page, and a stray of another person', () => {
		const print = (seed: number) =>
			Array.from({ length: 84 * 48 }, (_, i) =>
				((Math.imul(i + 7, 2654435761 + seed) >>> 13) % 16).toString(16)
			).join('');
		const order = proposeOrder(
			[
				numbered('a', 1),
				{ ...numbered('b', 2), fingerprint: print(1), legibility: 0.5 },
				{ ...numbered('b again', 2), fingerprint: print(1), legibility: 0.8 },
				{ ...numbered('c', 3), fingerprint: print(99) },
				clues('empty', { blank: true, reading: reading({}) }),
				clues('stray', { otherPerson: 'Piet Zwartveen' })
			],
			QUESTIONS
		);
		expect(order.strip.map((s) => s.page)).toEqual(['a', 'b again', 'c']);
		expect(order.setAside).toEqual([
			expect.objectContaining({ page: 'b', reason: 'duplicate', of: 'b again' }),
			expect.objectContaining({ page: 'empty', reason: 'blank' }),
			expect.objectContaining({ page: 'stray', reason: 'extra', why: 'It carries the name Piet Zwartveen.' })
		]);
	});

	it('does not set a whole packet aside because it carries another name', () => {
		const pages = ['a', 'b'].map((p) => clues(p, { otherPerson: 'Piet Zwartveen' }));
		expect(proposeOrder(pages, QUESTIONS).setAside).toEqual([]);
	});

	it('follows a number that a person corrected', () => {
		const pages = [numbered('a', 7), numbered('b', 2), numbered('c', 3)];
		expect(sequence(pages)).toEqual(['b', 'c', 'a']);
		expect(sequence([{ ...pages[0]!, numberSaid: 1 }, pages[1]!, pages[2]!])).toEqual(['a', 'b', 'c']);
	});
});

describe('numbers', () => {
	const unsure = (page: string, options: [number, number][]) =>
		clues(page, {
			reading: reading({
				numbers: options.map(([number, probability]) => ({ number, of: null, probability }))
			})
		});
	it('are settled between pages that may carry the same one', () => {
		const settled = settleNumbers([
			unsure('a', [
				[7, 0.5],
				[1, 0.4]
			]),
			unsure('b', [[7, 0.95]])
		]);
		expect(settled.map((n) => n!.number)).toEqual([1, 7]);
	});
	it('rise along the pages; what cannot rise was misread', () => {
		const settled = risingNumbers([
			unsure('a', [
				[7, 0.8],
				[1, 0.12]
			]),
			unsure('b', [[2, 0.9]]),
			unsure('c', [[1, 0.9]]),
			unsure('d', [[4, 0.9]])
		]);
		expect(settled.map((n) => n?.number ?? null)).toEqual([1, 2, null, 4]);
	});
});

describe('bestSequence', () => {
	it('finds the order that a table of neighbours asks for', () => {
		const wanted = [3, 0, 4, 1, 2];
		const score = (s: readonly number[]) =>
			s.reduce(
				(sum, page, i) => sum + (i > 0 && wanted.indexOf(page) === wanted.indexOf(s[i - 1]!) + 1 ? 1 : 0),
				0
			);
		expect(bestSequence([[0, 1, 2, 3, 4]], score).sequence).toEqual(wanted);
	});
});

describe('headers', () => {
	const line = (text: string, x: number, y: number) => ({
		text,
		box: [x, y, x + 0.3, y + 0.02] as const,
		confidence: 0.9
	});
	const body = (of: string) =>
		Array.from({ length: 12 }, (_, i) => line(`${of} ${i} ${of} ${of} ${of}`, 0.12, 0.22 + 0.03 * i));
	const page = (...lines: ReturnType<typeof line>[]) => ({ reading: { ...reading({ texts: [] }), lines } });

	it('are what stands at the top of several pages, though letters are misread', () => {
		const ends = headerEnds([
			page(line('Homework 4: The Sluice', 0.12, 0.09), line('1a The weir', 0.12, 0.13), ...body('weir')),
			page(line('Homewark 4 The Slvice', 0.13, 0.1), line('so it was dry', 0.12, 0.13), ...body('salt')),
			page(line('it had been dry for long', 0.12, 0.09), line('and', 0.12, 0.13), ...body('reed'))
		]);
		expect(ends[0]).toBeCloseTo(0.1);
		expect(ends[1]).toBeCloseTo(0.11);
		expect(ends[2]).toBeLessThan(0.09);
	});

	it('are what stands further in than lines begin', () => {
		const one = page(line('12 Nov', 0.5, 0.1), line('the weir again', 0.12, 0.13), ...body('weir'));
		expect(headerEnds([one])[0]).toBeCloseTo(0.11);
	});

	it('are not the writing of a page that is there twice', () => {
		const twice = page(line('the weir again', 0.12, 0.1), ...body('weir'));
		expect(headerEnds([twice, twice])[0]).toBeLessThan(0.1);
	});
});

describe('acceptOrder', () => {
	const page = (id: string): Page => ({
		id,
		source: id,
		sourcePage: 0,
		corners: null,
		turn: null,
		tone: null
	});
	const ids = ['a', 'b', 'c', 'd', 'e'];
	const packetOf = (strip: readonly string[]): Packet => ({
		...EMPTY_PACKET,
		pages: Object.fromEntries(ids.map((id) => [id, page(id)])),
		strip
	});
	const proposal = proposeOrder(
		ids.map((id, i) => (id === 'd' ? clues(id, { blank: true }) : numbered(id, i + 1))),
		QUESTIONS
	);

	it('moves the fewest pages, and leaves nothing to propose; its inverse brings the packet back', () => {
		fc.assert(
			fc.property(fc.shuffledSubarray(ids, { minLength: 1 }), (strip) => {
				const packet = packetOf(strip);
				const moves = proposedMoves(packet, proposal);
				const change = acceptOrder(packet, proposal);
				expect(change === null).toBe(moves.length === 0);
				if (!change) return;
				const { packet: after, inverse } = apply(packet, change);
				expect(proposedMoves(after, proposal)).toEqual([]);
				expect(apply(after, inverse).packet).toEqual(packet);
			})
		);
		expect(proposedMoves(packetOf(['b', 'c', 'e', 'a', 'd']), proposal)).toMatchObject([
			{ page: 'a', to: 1 },
			{ page: 'd', to: 'tray', aside: 'blank' }
		]);
	});

	it('taken one by one comes to the same', () => {
		fc.assert(
			fc.property(fc.shuffledSubarray(ids, { minLength: 5 }), (strip) => {
				let packet = packetOf(strip);
				for (let i = 0; i < 12; i++) {
					const [move] = proposedMoves(packet, proposal);
					if (!move) break;
					packet = apply(packet, acceptMove(packet, proposal, move)).packet;
				}
				expect(packet.strip).toEqual(['a', 'b', 'c', 'e']);
				expect(packet.tray).toEqual([{ page: 'd', reason: 'blank' }]);
			})
		);
	});

	it('has another key for another order', () => {
		const other = proposeOrder(
			ids.map((id, i) => numbered(id, 9 - i)),
			QUESTIONS
		);
		expect(orderKey(other)).not.toBe(orderKey(proposal));
	});
});

describe('interleave', () => {
	it('puts backs behind their fronts, however the pile was turned', () => {
		expect(interleave(['1', '3', '5', '2', '4', '6'], 'same')).toEqual(['1', '2', '3', '4', '5', '6']);
		expect(interleave(['1', '3', '5', '6', '4', '2'], 'reversed')).toEqual(['1', '2', '3', '4', '5', '6']);
		expect(interleave(['1', '3', '5', '2', '4'], 'same')).toEqual(['1', '2', '3', '4', '5']);
	});
});
