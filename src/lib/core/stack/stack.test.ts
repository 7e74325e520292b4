import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { apply } from '../packet/change';
import { EMPTY_PACKET, type Packet, type Page } from '../packet/packet';
import { packPosterior } from '../reading/packedPosterior';
import { CLASSES, classOf, NOTHING, type LinePosterior } from '../reading/linePosterior';
import type { PageReading } from '../reading/pageReading';
import type { HandMeasures } from '../hand/measureHand';
import { asPacket, cutBefore, give, joinToBefore, moveTo, nudge, setAside, withoutPerson } from './edits';
import { inPileOrder } from './feeding';
import { cutAsProposed, heapsOf, unlooked, whoIs } from './heaps';
import { matchPersons } from './matchPersons';
import { proposeCuts } from './proposeCuts';

const ROSTER = [
	{ id: 'a', given: 'Anouk', family: 'Aldermoor' },
	{ id: 'b', given: 'Bram', family: 'Brookhuis' },
	{ id: 'c', given: 'Cato', family: 'Candelaar' },
	{ id: 'd', given: 'Dirk', family: 'Dunweg' }
];
const QUESTIONS = [{ label: '1' }, { label: '2' }, { label: '3' }];

/** What a recogniser says of a text that it reads surely. */
function posterior(text: string): LinePosterior {
	const letters = text.toLowerCase();
	const steps = 2 * letters.length + 1;
	const data = new Float32Array(steps * CLASSES).fill(1e-5);
	for (let t = 0; t < steps; t++) {
		const k = t % 2 === 0 ? NOTHING : classOf(letters[(t - 1) / 2]!);
		data[t * CLASSES + k] = 0.99;
	}
	return { steps, data, caseless: true };
}

const WHITE = [0.93, 0.92, 0.9] as const;

interface Written {
	readonly name?: string;
	/** Page number and count of pages; each count as likely as the others. */
	readonly number?: readonly [number, ...number[]];
	readonly labels?: readonly string[];
	readonly blank?: boolean;
	/** A printed title, and nothing below it. */
	readonly headerOnly?: boolean;
	/** A cover sheet: of this person, and perhaps of another assignment than the stack's. */
	readonly cover?: string;
	readonly assignment?: string;
	readonly paper?: readonly [number, number, number];
	/** Which of many hands, none like another, it is written in. */
	readonly hand?: number;
}
/** Measures of a hand whose strokes go in ways that no other's do. */
function measuresOf(hand: number): HandMeasures {
	const cells = Array.from({ length: 300 }, (_, cell) => String.fromCharCode(cell % 30 === hand ? 255 : 0));
	const { stroke, letter, pitch, joined, margin } = {
		stroke: 0.5,
		letter: 3,
		pitch: 8,
		joined: 1,
		margin: 0.15
	};
	return { hinge: btoa(cells.join('')), contour: 12_000, stroke, letter, pitch, joined, margin };
}
function input(pages: readonly Written[]) {
	return {
		roster: ROSTER,
		questions: QUESTIONS,
		assignment: 'this one',
		pages: pages.map((written, i) => {
			const { name, number, labels = [], blank = false, headerOnly = false } = written;
			const { cover, assignment = 'this one', paper = WHITE, hand } = written;
			const reading: PageReading = {
				startsOnly: true,
				lines: headerOnly
					? [{ box: [0.1, 0.05, 0.4, 0.08], text: 'Worksheet 3: The Sluice', confidence: 0.9 }]
					: blank
						? []
						: Array.from({ length: cover && !labels.length ? 6 : 20 }, (_, k) => ({
								box: [0.2, 0.09 + 0.04 * k, 0.9, 0.12 + 0.04 * k] as const,
								text: `line ${k} of page ${i}`,
								confidence: 0.9
							})),
				labels: labels.map((question, k) => ({
					x: 0.1,
					y: 0.1 + 0.2 * k,
					fromBody: -1,
					options: [{ question, part: null, form: 'bare' as const, probability: 0.95 }]
				})) as unknown as PageReading['labels'],
				numbers: number
					? number.slice(1).map((of, _, all) => ({ number: number[0], of, probability: 0.95 / all.length }))
					: [],
				...(hand !== undefined && { hand: measuresOf(hand) }),
				header: name
					? [{ box: [0.1, 0.03, 0.4, 0.05], text: name, posterior: packPosterior(posterior(name)) }]
					: []
			};
			return {
				page: page(`p${i}`),
				record: {
					prepared: {
						blank,
						bare: blank,
						colours: { red: 0.33, blue: 0.33, dark: 1, paper },
						fingerprint: '',
						legibility: { score: 0.9, verdict: 'clear', reasons: [] }
					} as never,
					picture: cover ? { cover: { person: cover, assignment } } : null,
					reading,
					name: null,
					otherPerson: null,
					sourceName: 'pile.pdf',
					takenAt: null
				}
			};
		})
	};
}
function page(id: string): Page {
	return { id, source: 's', sourcePage: Number(id.slice(1)), corners: null, turn: null, tone: null };
}

describe('proposeCuts', () => {
	const three: Written[] = [
		{ name: 'anouk aldermoor', number: [1, 2], labels: ['1', '2'] },
		{ number: [2, 2], labels: ['3'] },
		{ name: 'bram brookhuis', number: [1, 3], labels: ['1'] },
		{ number: [2, 3], labels: ['2'] },
		{ number: [3, 3], labels: ['3'] },
		{ name: 'cato candelaar', number: [1, 1], labels: ['1', '2', '3'] }
	];

	it('is not led astray by a first page whose number was misread', () => {
		const bram: Written[] = [
			{ name: 'bram brookhuis', number: [5, 0], labels: ['1'] },
			{ number: [2, 0] },
			{ number: [3, 0] }
		];
		const { packets, cuts } = proposeCuts(
			input([
				{ name: 'anouk aldermoor', number: [1, 0], labels: ['1'] },
				{ number: [2, 0], labels: ['2'] },
				{ number: [3, 0] },
				{ number: [4, 0], labels: ['3'] },
				...bram
			])
		);
		expect(packets.map((p) => p.pages)).toEqual([
			['p0', 'p1', 'p2', 'p3'],
			['p4', 'p5', 'p6']
		]);
		expect(cuts.map((c) => c.page)).toEqual(['p4']);
	});

	it('learns from a stack how often its writers change their pens, and cuts by hands no more than that', () => {
		const numbered = (name: string, hands: readonly number[]) =>
			hands.map((hand, k): Written => ({
				hand,
				number: [k + 1, 0],
				...(k === 0 && { name, labels: ['1'] })
			}));
		const unnumbered: Written[] = [
			{ name: 'dirk dunweg', labels: ['1'], hand: 20 },
			{ hand: 21 },
			{ hand: 22 }
		];
		const cutsWith = (hands: (packet: number) => readonly number[]) =>
			proposeCuts(
				input([
					...numbered('anouk aldermoor', hands(0)),
					...numbered('bram brookhuis', hands(1)),
					...numbered('cato candelaar', hands(2)),
					...unnumbered
				])
			);
		const changing = cutsWith((packet) => [0, 1, 2, 3].map((k) => 4 * packet + k));
		expect(changing.packets.map((p) => p.pages.length)).toEqual([4, 4, 4, 3]);
		const steady = cutsWith((packet) => [packet, packet, packet, packet]);
		expect(steady.packets.map((p) => p.pages.length)).toEqual([4, 4, 4, 3]);
		const whole = ({ packets }: typeof changing) => packets[3]!.confidence;
		expect(whole(changing)).toBeGreaterThan(whole(steady) + 0.02);
	});

	it('keeps together what bears one name, though its numbers begin anew', () => {
		const anouk = 'anouk aldermoor';
		const { packets } = proposeCuts(
			input([
				{ name: 'cato candelaar', number: [1, 0], labels: ['1', '2', '3'] },
				{ name: anouk, number: [2, 0], labels: ['2'] },
				{ name: anouk },
				{ name: anouk, number: [1, 0], labels: ['1', '3'] },
				{ name: anouk, number: [2, 0] },
				{ name: 'dirk dunweg', number: [1, 0], labels: ['1', '2', '3'] }
			])
		);
		expect(packets.map((p) => [p.person?.id, p.pages.length])).toEqual([
			['c', 1],
			['a', 4],
			['d', 1]
		]);
	});

	it('keeps a side with nothing but a printed header with the page before it', () => {
		const side: Written = { headerOnly: true };
		const { packets, setAside } = proposeCuts(input([...three.slice(0, 2), side, ...three.slice(2), side]));
		expect(packets.map((p) => p.pages)).toEqual([
			['p0', 'p1', 'p2'],
			['p3', 'p4', 'p5'],
			['p6', 'p7']
		]);
		expect(setAside).toEqual([]);
	});

	describe('with sheets between packets', () => {
		/** Nothing tells whose they are, nor where one ends. */
		const page: Written = { labels: [] };
		const cover = (cover: string): Written => ({ cover });

		it('begins a person’s packet behind their cover sheet, and leaves it out', () => {
			const { packets, cuts, setAside, missing } = proposeCuts(
				input([
					cover('c'),
					page,
					page,
					page,
					cover('a'),
					page,
					{ blank: true },
					cover('b'),
					{ blank: true },
					page
				])
			);
			expect(packets.map((p) => [p.person?.id, p.pages])).toEqual([
				['c', ['p1', 'p2', 'p3']],
				['a', ['p5']],
				['b', ['p9']]
			]);
			expect(packets.every((p) => p.confidence > 0.9 && p.person!.confidence > 0.9)).toBe(true);
			expect(packets[1]!.person!.because).toEqual(['their cover sheet lies before it']);
			expect(cuts.map((c) => c.page)).toEqual(['p5', 'p9']);
			expect(cuts[0]!.because[0]).toBe('a cover sheet before it');
			const covers = setAside.filter((s) => s.reason === 'cover');
			expect(covers.map((s) => s.page)).toEqual(['p0', 'p4', 'p7']);
			expect(missing).toEqual(['d']);
		});

		it('is not sure whose a packet is where another name than the cover sheet’s stands on it', () => {
			const named: Written = { name: 'bram brookhuis', labels: ['1', '2'] };
			const { packets } = proposeCuts(input([cover('a'), named, cover('c'), page, page]));
			expect(packets.map((p) => p.pages.length)).toEqual([1, 2]);
			expect(packets[0]!.person?.confidence ?? 0).toBeLessThan(0.9);
			expect(packets[1]!.person?.id).toBe('c');
		});

		it('takes a cover sheet of another assignment, or of a stranger, for a divider only', () => {
			const other: Written = { cover: 'a', assignment: 'another' };
			const { packets } = proposeCuts(input([other, page, page, cover('nobody'), page, cover('d'), page]));
			expect(packets.map((p) => p.pages.length)).toEqual([2, 1, 1]);
			expect(packets[2]!.person?.id).toBe('d');
			expect(packets.slice(0, 2).every((p) => (p.person?.confidence ?? 0) < 0.5)).toBe(true);
		});

		it('keeps a cover sheet that somebody wrote their answers on, as the first page', () => {
			const used: Written = { cover: 'b', labels: ['1', '2'] };
			const { packets, setAside } = proposeCuts(input([cover('a'), page, used, page, cover('c'), page]));
			expect(packets.map((p) => [p.person?.id, p.pages])).toEqual([
				['a', ['p1']],
				['b', ['p2', 'p3']],
				['c', ['p5']]
			]);
			expect(setAside.map((s) => s.page)).toEqual(['p0', 'p4']);
		});

		it('gives a person’s pages to the last of several cover sheets', () => {
			const { packets, missing } = proposeCuts(input([cover('a'), cover('b'), page, cover('c'), page]));
			expect(packets.map((p) => p.person?.id)).toEqual(['b', 'c']);
			expect(missing).toEqual(['a', 'd']);
		});

		it('begins a packet behind an empty sheet of coloured paper, whatever the light', () => {
			const warm = [0.95, 0.88, 0.74] as const;
			const lit = (written: Written): Written => ({ ...written, paper: warm });
			const yellow: Written = { blank: true, paper: [0.95, 0.86, 0.52] };
			const pile = [
				lit(page),
				lit(page),
				yellow,
				lit(page),
				lit({ blank: true }),
				lit(page),
				yellow,
				lit(page)
			];
			const { packets, setAside } = proposeCuts(input(pile));
			expect(packets.map((p) => p.pages)).toEqual([['p0', 'p1'], ['p3', 'p5'], ['p7']]);
			expect(setAside.map((s) => s.reason)).toEqual(['cover', 'blank', 'cover']);
		});

		it('takes an empty side in the same other light as the pages beside it for no coloured sheet', () => {
			const lamp = (written: Written): Written => ({ ...written, paper: [0.95, 0.84, 0.6] });
			const { setAside } = proposeCuts(
				input([
					page,
					page,
					page,
					lamp(page),
					lamp({ blank: true }),
					lamp({ blank: true }),
					lamp(page),
					page,
					page
				])
			);
			expect(setAside.map((s) => s.reason)).toEqual(['blank', 'blank']);
		});
	});

	it('has every page once, in a packet or set aside, whatever lies in the pile', () => {
		const some: fc.Arbitrary<Written> = fc.constantFrom(
			{ cover: 'b' },
			{ blank: true, paper: [0.9, 0.9, 0.5] },
			{ headerOnly: true },
			{ blank: true },
			{ labels: ['2'] },
			{ number: [2, 2] as const },
			...three
		);
		fc.assert(
			fc.property(fc.array(some, { maxLength: 9 }), (pile) => {
				const { packets, setAside } = proposeCuts(input(pile));
				const all = [...packets.flatMap((p) => p.pages), ...setAside.map((s) => s.page)];
				expect(all.sort()).toEqual(pile.map((_, i) => `p${i}`));
			}),
			{
				numRuns: 60,
				examples: [[[{ number: [2, 3], labels: ['2'] }, { headerOnly: true }, { labels: ['2'] }]]]
			}
		);
	});

	it('does not end a packet by a count of pages that could hardly be read', () => {
		const unsure = three.map((page, i) => (i === 2 ? { ...page, number: [1, 1, 3, 8, 6] as const } : page));
		const { packets } = proposeCuts(input(unsure));
		expect(packets.map((p) => p.pages)).toEqual([['p0', 'p1'], ['p2', 'p3', 'p4'], ['p5']]);
	});

	it('cuts where names, numbers and labels begin again, and says why and who is missing', () => {
		const { packets, cuts, missing } = proposeCuts(input(three));
		expect(packets.map((p) => [p.person?.id, p.pages])).toEqual([
			['a', ['p0', 'p1']],
			['b', ['p2', 'p3', 'p4']],
			['c', ['p5']]
		]);
		expect(packets.every((p) => p.person!.confidence > 0.9)).toBe(true);
		expect(cuts.map((c) => c.page)).toEqual(['p2', 'p5']);
		expect(cuts[0]!.because).toEqual(
			expect.arrayContaining(['another name', 'page number 1', 'question 1 begins again'])
		);
		expect(missing).toEqual(['d']);
	});

	it('is not sure of a packet without a name, though only one person is left', () => {
		const nameless: Written[] = [
			...three,
			{ number: [1, 2], labels: ['1'] },
			{ number: [2, 2], labels: ['2', '3'] }
		];
		const last = proposeCuts(input(nameless)).packets.at(-1)!;
		expect(last.pages).toEqual(['p6', 'p7']);
		expect(last.person?.confidence ?? 0).toBeLessThan(0.5);
	});

	it('brings a page home that lies in another’s packet', () => {
		const stray: Written[] = [
			{ name: 'anouk aldermoor', number: [1, 3], labels: ['1'] },
			{ name: 'anouk aldermoor', number: [3, 3], labels: ['3'] },
			{ name: 'bram brookhuis', number: [1, 3], labels: ['1'] },
			{ name: 'anouk aldermoor', number: [2, 3], labels: ['2'] },
			{ name: 'bram brookhuis', number: [2, 3], labels: ['2'] },
			{ name: 'bram brookhuis', number: [3, 3], labels: ['3'] }
		];
		const { packets, moved } = proposeCuts(input(stray));
		expect(moved).toEqual(['p3']);
		expect(packets.map((p) => [...p.pages].sort())).toEqual([
			['p0', 'p1', 'p3'],
			['p2', 'p4', 'p5']
		]);
	});

	it('puts fronts and backs that were fed apart together again, and blank backs aside', () => {
		const leaves: Written[] = [
			...three.slice(0, 5),
			{ blank: true },
			{ name: 'cato candelaar', number: [1, 1], labels: ['1', '2', '3'] },
			{ blank: true }
		];
		const n = leaves.length;
		for (const feeding of ['fronts, then backs', 'fronts, then backs from the last'] as const) {
			const fed: Written[] = [];
			inPileOrder(feeding, n).forEach((from, at) => (fed[from] = leaves[at]!));
			const found = proposeCuts(input(fed));
			expect(found.feeding).toBe(feeding);
			expect(found.packets.map((p) => p.person?.id)).toEqual(['a', 'b', 'c']);
			expect(found.setAside.map((s) => s.reason)).toEqual(['blank', 'blank']);
		}
	});

	it('says nothing of pages that nothing was read on', () => {
		const { packets } = proposeCuts(input([{}, {}, {}]));
		expect(packets.every((p) => p.person === null || p.person.confidence < 0.5)).toBe(true);
	});
});

describe('matchPersons', () => {
	const logs = (...shares: number[]) => Float64Array.from(shares, Math.log);
	it('gives each person one packet: who is surer of theirs leaves the other to the next', () => {
		const packets = [logs(0.9, 0.05, 0.05), logs(0.5, 0.45, 0.05)];
		const found = matchPersons(packets, 2, () => true);
		expect(found.map((f) => f.person)).toEqual([0, 1]);
		// What it says itself is not made surer by what others say.
		expect(found[1]!.confidence).toBeLessThan(0.5);
	});
	it('names nobody where nothing tells', () => {
		const even = logs(0.18, 0.18, 0.18, 0.18, 0.18, 0.1);
		const found = matchPersons([even, even], 5, () => false);
		expect(found.every((f) => f.confidence < 0.5)).toBe(true);
	});
});

const STACK: Packet = {
	...EMPTY_PACKET,
	pages: Object.fromEntries(Array.from({ length: 7 }, (_, i) => [`p${i}`, page(`p${i}`)])),
	strip: ['p0', 'p1', 'p2', 'p3', 'p4', 'p5', 'p6']
};
const shape = (packet: Packet) => heapsOf(packet).map((h) => [h.cut?.person ?? null, h.pages.join(' ')]);

describe('a person’s edits of a stack', () => {
	const cut = (packet: Packet, at: string, person: string | null) =>
		apply(packet, { kind: 'setCut', page: at, person }).packet;
	const two = cut(cut(STACK, 'p0', 'a'), 'p3', 'b');
	const did = (change: ReturnType<typeof cutBefore>) => shape(apply(two, change!).packet);

	it('cut, join, give, move, set aside', () => {
		expect(did(cutBefore(two, 'p5'))).toEqual([
			['a', 'p0 p1 p2'],
			['b', 'p3 p4'],
			[null, 'p5 p6']
		]);
		expect(did(joinToBefore(two, 'p4'))).toEqual([['a', 'p0 p1 p2 p3 p4 p5 p6']]);
		expect(did(give(two, 'p4', 'c'))[1]).toEqual(['c', 'p3 p4 p5 p6']);
		expect(did(setAside(two, 'p3'))[1]).toEqual(['b', 'p4 p5 p6']);
		expect(did(moveTo(two, 'p0', 'p4'))).toEqual([
			['a', 'p1 p2'],
			['b', 'p3 p4 p5 p6 p0']
		]);
	});

	it('what was set aside becomes a packet of its own, also where no other is left', () => {
		const without = apply(two, setAside(two, 'p0')!).packet;
		expect(asPacket(without, 'p1')).toBeNull();
		expect(shape(apply(without, asPacket(without, 'p0')!).packet)).toEqual([
			['a', 'p1 p2'],
			['b', 'p3 p4 p5 p6'],
			[null, 'p0']
		]);
		const nothing = STACK.strip.reduce((now, id) => apply(now, setAside(now, id)!).packet, two);
		expect(shape(nothing)).toEqual([]);
		expect(shape(apply(nothing, asPacket(nothing, 'p4')!).packet)).toEqual([[null, 'p4']]);
	});

	it('what is a person’s goes as a whole, made into a packet or not', () => {
		expect(did(withoutPerson(two, 'a'))).toEqual([['b', 'p3 p4 p5 p6']]);
		const made = { ...two, cuts: two.cuts!.map((c) => (c.person === 'b' ? { ...c, packet: 'k' } : c)) };
		const { packet } = apply(made, withoutPerson(made, 'b')!);
		expect(shape(packet)).toEqual([['a', 'p0 p1 p2']]);
		expect(Object.keys(packet.pages)).toEqual(['p0', 'p1', 'p2']);
		expect(withoutPerson(two, 'c')).toBeNull();
	});

	it('a page at a border goes over it, and its packet begins with the next', () => {
		expect(did(nudge(two, 'p3', -1))).toEqual([
			['a', 'p0 p1 p2 p3'],
			['b', 'p4 p5 p6']
		]);
		expect(did(nudge(two, 'p2', 1))).toEqual([
			['a', 'p0 p1'],
			['b', 'p2 p3 p4 p5 p6']
		]);
		expect(did(nudge(two, 'p3', 1))[1]).toEqual(['b', 'p4 p3 p5 p6']);
		expect(did(nudge(two, 'p4', -1))[1]).toEqual(['b', 'p4 p3 p5 p6']);
	});

	it('a packet that was made is left alone', () => {
		const made = apply(two, {
			kind: 'putCut',
			cut: { ...two.cuts!.find((c) => c.page === 'p3')!, packet: 'made' }
		}).packet;
		for (const change of [
			cutBefore(made, 'p4'),
			joinToBefore(made, 'p3'),
			give(made, 'p4', 'c'),
			setAside(made, 'p3'),
			nudge(made, 'p2', 1),
			moveTo(made, 'p0', 'p4')
		]) {
			expect(change).toBeNull();
		}
		expect(() => apply(made, { kind: 'removeCut', page: 'p3' })).toThrow(/made already/);
		expect(() => apply(made, { kind: 'setCut', page: 'p3', person: 'c' })).toThrow(/made already/);
	});

	it('whatever is done, no page is lost, and undoing it all gives back what was', () => {
		const id = fc.constantFrom(...STACK.strip);
		const acts = fc.array(fc.tuple(fc.integer({ min: 0, max: 7 }), id, id), { maxLength: 25 });
		fc.assert(
			fc.property(acts, (list) => {
				let now = two;
				const inverses = [];
				for (const [what, a, b] of list) {
					const change = [
						() => cutBefore(now, a),
						() => joinToBefore(now, a),
						() => give(now, a, 'c'),
						() => setAside(now, a),
						() => moveTo(now, a, b),
						() => nudge(now, a, 1),
						() => nudge(now, a, -1),
						() => asPacket(now, a)
					][what]!();
					if (!change) continue;
					const applied = apply(now, change);
					now = applied.packet;
					inverses.unshift(applied.inverse);
					const all = [...now.strip, ...now.tray.map((t) => t.page)].sort();
					expect(all).toEqual(STACK.strip);
					// Every cut begins a packet that is there.
					const firsts = heapsOf(now).flatMap((h) => h.cut?.page ?? []);
					expect(firsts.length).toBe(now.cuts!.length);
				}
				for (const inverse of inverses) now = apply(now, inverse).packet;
				expect(shape(now)).toEqual(shape(two));
			})
		);
	});
});

describe('whoIs', () => {
	it('takes nobody to have a packet by a guess', () => {
		const guessed = { page: 'p0', person: 'a', sure: 1, personSure: 0.4 };
		const cut = { ...guessed, because: [], personBecause: [], packet: null };
		const heaps = (personSure: number) => [{ cut: { ...cut, personSure }, pages: ['p0'] }];
		expect(whoIs(heaps(0.4), ROSTER).missing).toContain('a');
		expect(whoIs(heaps(0.6), ROSTER).missing).not.toContain('a');
	});
});

describe('cutAsProposed', () => {
	it('puts each packet’s pages together, sets blank ones aside, and leaves earlier cuts alone', () => {
		const before: Packet = { ...STACK, looked: ['p0', 'p1'], cuts: [] };
		const first = apply(before, { kind: 'setCut', page: 'p0', person: 'a' }).packet;
		const change = cutAsProposed(first, {
			feeding: 'as fed',
			order: ['p2', 'p3', 'p4', 'p5', 'p6'],
			packets: [
				{ pages: ['p2', 'p6'], confidence: 0.9, person: { id: 'b', confidence: 0.97, because: ['name'] } },
				{ pages: ['p4', 'p5'], confidence: 0.8, person: null }
			],
			cuts: [{ page: 'p4', confidence: 0.7, because: ['page number 1'] }],
			setAside: [{ page: 'p3', reason: 'blank', confidence: 1 }],
			missing: [],
			moved: ['p6']
		});
		const after = apply(first, change).packet;
		expect(shape(after)).toEqual([
			['a', 'p0 p1'],
			['b', 'p2 p6'],
			[null, 'p4 p5']
		]);
		expect(after.tray).toEqual([{ page: 'p3', reason: 'blank' }]);
		expect(unlooked(after)).toEqual([]);
		expect(whoIs(heapsOf(after), ROSTER)).toEqual({ missing: ['c', 'd'], twice: [] });
	});
});
