import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { page } from '../../../../tests/support/page';
import { label, reading } from '../../../../tests/support/reading';
import { apply } from '../packet/change';
import { EMPTY_PACKET, type Packet, type Page, type Seam } from '../packet/packet';
import type { PageFacts } from '../page/preparePage';
import { check, RULE_TITLES } from './check';
import { describeRules } from './describeRules';
import { clockAt, formatClock, formatDue, formatDuration } from '../rules/dueTime';
import { wholePicture } from '../sheet/geometry';
import type { PageRecord } from '../page/pageRecord';
import type { PictureFacts } from '../page/preparePage';
import { list, type CheckInput, type Finding } from '../rules/finding';
import { formatBytes } from '../rules/formatBytes';
import { answerables } from '../assignment/question';
import { questionSaid } from '../rules/questionSaid';
import { RULES, type RuleName, type RuleSheet } from '../rules/ruleSheet';
import { parseRuleSheet, RuleSheetError } from '../rules/ruleSheetSchema';

const SHEET: RuleSheet = {
	title: 'Worksheet 3',
	course: 'HY-2',
	due: '2026-12-04T18:00:00+01:00',
	questions: [
		{ label: '1', marks: 6 },
		{ label: '2', parts: [{ label: 'a' }, { label: 'b' }] },
		{ label: '3', newPage: true }
	],
	pages: { min: 2, max: 3, size: 'A4' },
	file: { namePattern: '{family}_{given}_{course}_W3', maxBytes: 500_000 },
	tone: ['greyscale', 'black-and-white'],
	legibility: 'doubtful'
};

const facts = (change: Partial<PageFacts> = {}): PageFacts => ({
	width: 1654,
	height: 2339,
	dotsPerInch: 200,
	size: 'A4',
	blank: false,
	legibility: { score: 0.9, verdict: 'clear', reasons: [], profile: [], places: [] },
	fingerprint: '',
	...change
});
/** What was found of a picture. */
const found = ({
	outline,
	...change
}: Partial<Omit<PictureFacts, 'outline'>> & {
	outline?: Partial<PictureFacts['outline']>;
} = {}): PictureFacts => ({
	width: 1000,
	height: 1400,
	outline: { kind: 'sheet', confidence: 0.98, cutOff: [], corners: wholePicture(1000, 1400), ...outline },
	turn: { turn: 0, confidence: 0.9 },
	...change
});
const evidence = (change: Partial<PageFacts> = {}, more: Partial<PageRecord> = {}): PageRecord => ({
	key: 'k',
	picture: found(),
	problem: null,
	prepared: facts(change),
	bytes: 60_000,
	weights: null,
	reading: { lines: [], labels: [], numbers: [] },
	otherPerson: null,
	name: null,
	sourceName: 'a.jpg',
	takenAt: null,
	...more
});
const seam = (at: string, y: number, ...questions: string[]): Seam => ({
	id: at + y,
	page: at,
	y,
	questions
});

const PACKET: Packet = {
	...EMPTY_PACKET,
	pages: { a: page('a'), b: page('b'), c: page('c') },
	strip: ['a', 'b', 'c'],
	seams: [seam('a', 0.1, '1'), seam('b', 0, '2a'), seam('b', 0.5, '2b'), seam('c', 0.05, '3')]
};
const INPUT: CheckInput = {
	sheet: SHEET,
	packet: PACKET,
	evidence: { a: evidence(), b: evidence(), c: evidence() },
	person: { given: 'Ilka', family: 'Brandsma' },
	now: Date.parse('2026-12-02T17:00:00Z')
};

function finding(rule: RuleName, change: Partial<CheckInput> = {}): Finding {
	return check({ ...INPUT, ...change }).find((f) => f.rule === rule)!;
}
const packet = (change: Partial<Packet>): Partial<CheckInput> => ({ packet: { ...PACKET, ...change } });
const sheet = (change: Partial<RuleSheet>): Partial<CheckInput> => ({ sheet: { ...SHEET, ...change } });

describe('check', () => {
	it('finds a good packet clear in every rule, and has a title for each', () => {
		const findings = check(INPUT);
		expect(findings.map((f) => f.level)).toEqual(RULES.map(() => 'clear'));
		expect(Object.keys(RULE_TITLES).sort()).toEqual([...RULES].sort());
	});

	const levels = (change: Partial<CheckInput>) =>
		Object.fromEntries(check({ ...INPUT, ...change }).map((f) => [f.rule, f.level]));

	it('is open, never clear, where what a rule needs is not known', () => {
		const unread = { ...INPUT.evidence, b: evidence({}, { reading: null }) };
		const open = (change: Partial<CheckInput>) =>
			Object.entries(levels(change)).flatMap(([rule, level]) => (level === 'open' ? [rule] : []));
		expect(open({ evidence: unread }).sort()).toEqual([
			'blankPages',
			'duplicates',
			'ownPages',
			'pageNumbers'
		]);
		expect(open({ evidence: { ...INPUT.evidence, b: undefined } })).toEqual(
			expect.arrayContaining(['legibility', 'upright', 'wholeSheet', 'pageSize', 'fileSize', 'pageNumbers'])
		);
		expect(open(packet({ seams: [] })).sort()).toEqual(['newPage', 'questionOrder']);
		// Where nothing will ever be read, nobody is told to wait for it.
		const messages = (reads: boolean) =>
			check({ ...INPUT, evidence: unread, reads }).flatMap((f) => (f.level === 'open' ? [f.message] : []));
		expect(messages(true).join()).toContain('Told when every page has been read');
		expect(messages(false).join()).not.toContain('Told when every page has been read');
		expect(messages(false).join()).toContain('reading is switched off');
		// Of an empty packet nothing is clear but what needs no page.
		const clear = Object.entries(levels(packet({ strip: [], seams: [] }))).filter(([, l]) => l === 'clear');
		expect(clear.map(([rule]) => rule).sort()).toEqual(['due', 'fileName', 'fileType']);
		// That there are no pages is said once.
		expect(check({ ...INPUT, ...packet({ strip: [], seams: [] }) }).filter((f) => f.fix)).toMatchObject([
			{ rule: 'pageCount', level: 'blocks', fix: { task: 'gather' } }
		]);
		// A page that cannot be prepared is known to be one.
		const broken = {
			...INPUT.evidence,
			b: evidence({}, { prepared: null, reading: null, problem: 'Damaged.' })
		};
		expect(levels({ evidence: broken }).upright).toBe('clear');
	});

	it('puts the worst first', () => {
		const findings = check({ ...INPUT, ...packet({ seams: [], fileName: 'other' }) });
		const ranks = findings.map((f) => ['blocks', 'look', 'open', 'clear'].indexOf(f.level));
		expect(ranks).toEqual([...ranks].sort());
		expect(ranks[0]).toBe(0);
	});

	it('does as the rule sheet says: block or look', () => {
		const late = { now: Date.parse(SHEET.due!) + 65 * 60_000 };
		expect(finding('due', late).level).toBe('blocks');
		expect(finding('due', late).message).toContain('1 h 5 min');
		expect(finding('due', { ...late, ...sheet({ levels: { due: 'look' } }) }).level).toBe('look');
	});

	it('due: a grace period asks to look, and blocks once it is over', () => {
		const at = (minutes: number) => ({
			now: Date.parse(SHEET.due!) + minutes * 60_000,
			...sheet({ grace: 10 })
		});
		expect(finding('due', at(-1)).level).toBe('clear');
		expect(finding('due', at(4))).toMatchObject({
			level: 'look',
			message: 'It was due Fri 4 Dec 18:00 (UTC+1): 4 min ago. The grace period runs for 6 min more.'
		});
		expect(finding('due', at(11))).toMatchObject({ level: 'blocks' });
		expect(finding('due', at(11)).message).toContain('over too');
	});

	it('fileType: another type than is asked for blocks', () => {
		expect(finding('fileType')).toMatchObject({ level: 'clear', message: 'one PDF' });
		const zip = finding('fileType', { fileType: 'zip' });
		expect(zip).toMatchObject({
			level: 'blocks',
			message: 'This is page images in a ZIP; asked is one PDF.'
		});
		expect(finding('fileType', { fileType: 'zip', ...sheet({ file: { type: 'zip' } }) }).level).toBe('clear');
	});

	it('does not depend on the order in which pages arrived', () => {
		fc.assert(
			fc.property(fc.shuffledSubarray(['a', 'b', 'c'], { minLength: 3 }), (order) => {
				const pages = Object.fromEntries(order.map((id) => [id, PACKET.pages[id]!]));
				expect(check({ ...INPUT, ...packet({ pages }) })).toEqual(check(INPUT));
			})
		);
	});
});

describe('rules that go by what was read', () => {
	const read = (number: number | null, ...labels: string[]) =>
		evidence(
			{},
			{
				reading: reading({
					numbers: number === null ? [] : [{ number, of: 5, probability: 0.95 }],
					labels: labels.map((name, i) => label(0.1 + 0.3 * i, name))
				})
			}
		);
	const three = (a: PageRecord, b: PageRecord, c: PageRecord) => ({ evidence: { a, b, c } });

	it('pageNumbers: wrong order is mended in one click, what nothing reads is named, no numbers are fine', () => {
		// Nobody has said yet what the pages answer: that would speak for the order they are in.
		const mixed = { ...three(read(2), read(1), read(3)), packet: { ...PACKET, seams: [] } };
		const found = finding('pageNumbers', mixed);
		expect(found).toMatchObject({ level: 'look', pages: [1, 2] });
		expect(found.message).toBe('Page 1 reads “2 of 5”, and page 2 after it “1 of 5”.');
		const { packet: mended } = apply(PACKET, found.fix!.change!);
		expect(mended.strip).toEqual(['b', 'a', 'c']);
		expect(finding('pageNumbers', three(read(1), read(2), read(4))).message).toBe(
			'Page 3 reads “4 of 5”; nothing reads 3 and 5.'
		);
		expect(finding('pageNumbers', three(read(null), read(null), read(null))).level).toBe('clear');
		expect(finding('pageNumbers', { ...mixed, ...sheet({ levels: { pageNumbers: 'blocks' } }) }).level).toBe(
			'blocks'
		);
	});

	it('ownPages: another name, another assignment', () => {
		const stray = finding('ownPages', three(read(1), { ...read(2), otherPerson: 'Piet Zwartveen' }, read(3)));
		expect(stray).toMatchObject({ level: 'look', pages: [2] });
		expect(stray.message).toContain('Piet Zwartveen');
		expect(apply(PACKET, stray.fix!.change!).packet.tray).toEqual([{ page: 'b', reason: 'extra' }]);
		// A name that was misread: the person's word wins, and whoever receives it is told.
		const input = three(read(1), { ...read(2), otherPerson: 'Piet Zwartveen' }, read(3));
		const said = apply(PACKET, stray.otherwise!.change!);
		const mine = finding('ownPages', {
			...input,
			...sheet({ levels: { ownPages: 'blocks' } }),
			packet: said.packet
		});
		expect(mine).toMatchObject({ level: 'look', pages: [2] });
		expect(mine.message).toContain('said to be this packet’s own');
		expect(apply(said.packet, mine.fix!.change!).packet).toEqual(PACKET);
		expect(apply(said.packet, said.inverse).packet).toEqual(PACKET);
		const all = three(
			...(['a', 'b', 'c'].map(() => ({ ...read(1), otherPerson: 'Piet Zwartveen' })) as [
				PageRecord,
				PageRecord,
				PageRecord
			])
		);
		expect(finding('ownPages', all).fix!.change).toBeUndefined();
		expect(finding('ownPages', three(read(1), read(2, '7'), read(3))).message).toContain('labelled 7');
		expect(finding('ownPages', three(read(1, '1'), read(2, '2a', 'b'), read(3, '3'))).level).toBe('clear');
	});

	it('allAnswered: what was read places the questions in one click', () => {
		const input = { ...three(read(1, '1'), read(2, '2a', 'b'), read(3, '3')), ...packet({ seams: [] }) };
		const { fix, level } = finding('allAnswered', input);
		expect(level).toBe('blocks');
		const placed = apply(input.packet!, fix!.change!).packet;
		expect(finding('allAnswered', { ...input, packet: placed }).level).toBe('clear');
	});
});

describe('rules', () => {
	it('pageCount: too few, too many, blank and set-aside pages not counted, none', () => {
		expect(finding('pageCount', packet({ strip: ['a'] }))).toMatchObject({
			level: 'blocks',
			fix: { task: 'gather' }
		});
		const blank = { evidence: { ...INPUT.evidence, c: evidence({ blank: true, bare: true }) } };
		expect(finding('pageCount', blank)).toMatchObject({
			level: 'clear',
			message: '2 pages, 1 blank not counted; 2 to 3 asked'
		});
		// Something is on it: counted until a person has looked.
		const perhaps = { evidence: { ...INPUT.evidence, c: evidence({ blank: true }) } };
		expect(finding('pageCount', perhaps).message).toBe('3 pages; 2 to 3 asked');
		expect(finding('pageCount', sheet({ pages: { max: 2 } })).level).toBe('blocks');
		expect(finding('pageCount', sheet({ pages: { min: 3, max: 3 } })).level).toBe('clear');
		expect(finding('pageCount', packet({ strip: [] })).message).toContain('no pages');
	});

	it('blankPages: says which, how sure it is, and offers to set them aside', () => {
		expect(finding('blankPages', {}).level).toBe('clear');
		const sure = { evidence: { ...INPUT.evidence, c: evidence({ blank: true, bare: true }) } };
		expect(finding('blankPages', sure)).toMatchObject({ level: 'look', pages: [3] });
		expect(finding('blankPages', sure).message).toContain('nothing on it but the paper');
		const perhaps = finding('blankPages', { evidence: { ...INPUT.evidence, c: evidence({ blank: true }) } });
		expect(perhaps.message).toContain('Look whether it is blank');
		const mended = apply(PACKET, perhaps.fix!.change!).packet;
		expect(mended.tray.at(-1)).toMatchObject({ page: 'c', reason: 'blank' });
		expect(finding('blankPages', { packet: mended }).message).toBe('1 blank page set aside');
	});

	it('blankPages: points out a page on which nothing but the header of the others was read', () => {
		const headed = (...below: string[]) =>
			evidence({}, { reading: reading({ texts: ['Homework 4: The Sluice', ...below] }) });
		const written = ['the weir stood dry for a week', 'then it rained', 'and the gauge rose'];
		const last = (c: PageRecord) =>
			finding('blankPages', {
				packet: { ...PACKET, seams: PACKET.seams.filter((s) => s.page !== 'c') },
				evidence: { ...INPUT.evidence, a: headed(...written), b: headed(...written.map((t) => t + '!')), c }
			});
		expect(last(headed())).toMatchObject({ level: 'look', pages: [3] });
		expect(last(headed()).message).toContain('below the header');
		// The end of an answer that spills over is no header.
		expect(last(headed('and fell.')).level).toBe('clear');
	});

	it('allAnswered: names what is open, takes "not attempted", and sees a contradiction', () => {
		const without3 = PACKET.seams.filter((s) => !s.questions.includes('3'));
		expect(finding('allAnswered', packet({ seams: without3 }))).toMatchObject({
			level: 'blocks',
			message: 'Nothing is placed for 3.',
			fix: { task: 'map' }
		});
		const skipped = finding('allAnswered', packet({ seams: without3, notAttempted: ['3'] }));
		expect(skipped).toMatchObject({ level: 'clear', message: '1, 2a and 2b placed; 3 not attempted' });
		const both = finding('allAnswered', packet({ notAttempted: ['3'] }));
		expect(both.level).toBe('look');
		const mended = apply({ ...PACKET, notAttempted: ['3'] }, both.fix!.change!).packet;
		expect(finding('allAnswered', { packet: mended }).level).toBe('clear');
	});

	it('questionOrder: says where it goes wrong', () => {
		const swapped = finding('questionOrder', packet({ strip: ['b', 'a', 'c'] }));
		expect(swapped).toMatchObject({ level: 'look', pages: [2], message: 'On page 2, 1 comes after 2b.' });
		expect(swapped.fix).toMatchObject({ task: 'order', change: {} });
		// Where no order of the pages mends it, it is the map that is to be looked at.
		const seams = [...PACKET.seams, seam('c', 0.5, '1')];
		const misplaced = finding('questionOrder', packet({ seams }));
		expect(misplaced.fix).toEqual({ label: 'Look where 1 begins', task: 'map', page: 'c' });
	});

	it('newPage: begins at the top, or is pointed out', () => {
		const low = [...PACKET.seams.slice(0, 3), seam('c', 0.4, '3')];
		expect(finding('newPage', packet({ seams: low }))).toMatchObject({ level: 'look', pages: [3] });
		expect(finding('newPage', sheet({ questions: [{ label: '1' }] }))).toBeUndefined();
	});

	it('legibility: below the bar with the reason; still being prepared is not clear', () => {
		const bad = evidence({
			legibility: { score: 0.2, verdict: 'unreadable', reasons: ['blur'], profile: [], places: [] }
		});
		const found = finding('legibility', { evidence: { ...INPUT.evidence, b: bad } });
		expect(found).toMatchObject({ level: 'look', pages: [2], fix: { page: 'b' } });
		expect(found.message).toContain('blurred');
		const doubtful = evidence({
			legibility: { score: 0.5, verdict: 'doubtful', reasons: [], profile: [], places: [] }
		});
		const input = { evidence: { ...INPUT.evidence, b: doubtful } };
		expect(finding('legibility', input)).toMatchObject({
			level: 'clear',
			message: 'Well enough for this assignment; page 2 could read better'
		});
		expect(finding('legibility', {}).message).toBe('Every page reads well enough');
		expect(finding('legibility', { ...input, ...sheet({ legibility: 'clear' }) }).level).toBe('look');
		expect(finding('legibility', { evidence: { a: evidence(), c: evidence() } })).toMatchObject({
			level: 'open',
			pages: [2]
		});
	});

	it('a page that cannot be prepared blocks, and nobody is told to wait for it', () => {
		const broken = { ...evidence(), prepared: null, bytes: null, problem: 'This page is damaged.' };
		const input = { evidence: { ...INPUT.evidence, b: broken } };
		const found = finding('legibility', input);
		expect(found).toMatchObject({ level: 'blocks', pages: [2], fix: { page: 'b', task: 'square' } });
		expect(found.message).toContain('cannot be prepared');
		const size = finding('fileSize', input);
		expect(size).toMatchObject({ level: 'look', pages: [2] });
		expect(size.message).toContain('not counted');
	});

	it('wholeSheet and upright: point out what is unsure until a person has set it', () => {
		const cut = {
			evidence: {
				...INPUT.evidence,
				b: evidence({}, { picture: found({ outline: { confidence: 0.9, cutOff: ['bottom'] } }) })
			}
		};
		expect(finding('wholeSheet', cut)).toMatchObject({ level: 'look', pages: [2] });
		const corners = [
			[0, 0],
			[1, 0],
			[1, 1],
			[0, 1]
		] as unknown as Page['corners'];
		expect(
			finding('wholeSheet', { ...cut, ...packet({ pages: { ...PACKET.pages, b: page('b', { corners }) } }) })
				.level
		).toBe('clear');
		const unsure = {
			evidence: {
				...INPUT.evidence,
				a: evidence({}, { picture: found({ turn: { turn: 180, confidence: 0.1 } }) })
			}
		};
		expect(finding('upright', unsure)).toMatchObject({ level: 'look', pages: [1] });
		const whole = {
			evidence: { ...INPUT.evidence, b: evidence({}, { picture: found({ outline: { confidence: 0.2 } }) }) }
		};
		for (const [rule, input] of [
			['upright', unsure],
			['wholeSheet', whole]
		] as const) {
			// Whoever has looked says so in one click.
			const { otherwise } = finding(rule, input);
			const told = apply(PACKET, otherwise!.change!).packet;
			expect(finding(rule, { ...input, packet: told }).level).toBe('clear');
		}
		expect(
			finding('upright', { ...unsure, ...packet({ pages: { ...PACKET.pages, a: page('a', { turn: 0 }) } }) })
				.level
		).toBe('clear');
	});

	it('upright: what does not tell is to be turned like the others of its shape, where they agree', () => {
		const lies = (degrees: 0 | 90 | 180, confidence: number, standing = false) =>
			evidence(
				{},
				{
					picture: {
						...found({ turn: { turn: degrees, confidence } }),
						...(standing ? { width: 900, height: 1200 } : { width: 1200, height: 900 })
					}
				}
			);
		const pages = { ...PACKET.pages, d: page('d') };
		const told = (b: PageRecord, strip = ['a', 'b', 'c', 'd']) =>
			finding('upright', {
				...packet({ strip, pages }),
				evidence: { a: lies(90, 0.9), b, c: lies(180, 0.1), d: lies(90, 0.8) }
			}).fix!;
		// Two lie alike; the third of their shape does not tell.
		expect(told(lies(0, 0.9, true))).toMatchObject({
			label: 'Turn page 3 like the others',
			change: { changes: [{ kind: 'setTurn', page: 'c', turn: 90 }] }
		});
		expect(told(lies(180, 0.9)).change).toBeUndefined();
		// A single one says nothing of others.
		expect(told(lies(0, 0.9, true), ['a', 'b', 'c']).change).toBeUndefined();
	});

	it('pageSize: another paper is pointed out', () => {
		expect(
			finding('pageSize', { evidence: { ...INPUT.evidence, a: evidence({ size: 'Letter' }) } })
		).toMatchObject({ level: 'look', pages: [1] });
		expect(finding('pageSize', sheet({ pages: {} }))).toBeUndefined();
	});

	it('duplicates: offers to keep the better one, and doing so clears it', () => {
		const print = Array.from({ length: 84 * 48 }, (_, i) => ((i * i * 7) % 16).toString(16)).join('');
		const same = {
			evidence: {
				a: evidence({
					fingerprint: print,
					legibility: { score: 0.5, verdict: 'doubtful', reasons: [], profile: [], places: [] }
				}),
				b: evidence(),
				c: evidence({ fingerprint: print })
			}
		} as const;
		const found = finding('duplicates', same);
		expect(found).toMatchObject({ level: 'look', pages: [1, 3] });
		const mended = apply(PACKET, found.fix!.change!).packet;
		expect(mended.strip).toEqual(['b', 'c']);
		expect(finding('duplicates', { ...same, packet: mended }).level).toBe('clear');
	});

	it('tone: a tone that is not allowed blocks, and the fix takes it back', () => {
		const tone = { name: 'colour', evenLight: true, inkWeight: 0 } as const;
		const coloured = { ...PACKET, pages: { ...PACKET.pages, c: page('c', { tone }) } };
		const found = finding('tone', { packet: coloured });
		expect(found).toMatchObject({ level: 'blocks', pages: [3] });
		expect(finding('tone', { packet: apply(coloured, found.fix!.change!).packet }).level).toBe('clear');
	});

	it('fileName: the pattern, and what no system takes', () => {
		expect(finding('fileName').message).toBe('Brandsma_Ilka_HY-2_W3.pdf');
		expect(finding('fileName', packet({ fileName: 'scan 14 (2)' })).level).toBe('blocks');
		const look = { ...packet({ fileName: 'scan 14 (2)' }), ...sheet({ levels: { fileName: 'look' } }) };
		expect(finding('fileName', look).level).toBe('look');
		expect(finding('fileName', { ...look, ...packet({ fileName: 'a/b' }) }).level).toBe('blocks');
	});

	it('fileSize: counts the encoded pages and names the heaviest', () => {
		const heavy = { evidence: { ...INPUT.evidence, b: evidence({}, { bytes: 900_000 }) } };
		expect(finding('fileSize', heavy)).toMatchObject({ level: 'blocks', pages: [2] });
		expect(finding('fileSize').message).toBe('About 184 KB of 500 KB');
		expect(finding('fileSize', { evidence: { a: evidence(), b: evidence() } })).toMatchObject({
			level: 'open',
			pages: [3]
		});
	});
});

describe('a file that is too large', () => {
	const encoding = { dotsPerInch: 150, quality: 50 };
	const weights = (bytes: number, loss: number): PageRecord['weights'] => [
		{ tone: null, encoding: null, bytes, loss: 0 },
		{ tone: null, encoding, bytes: bytes / 4, loss }
	];
	const heavy = {
		a: evidence({}, { bytes: 60_000, weights: weights(60_000, 0.05) }),
		b: evidence({}, { bytes: 900_000, weights: weights(900_000, 0.1) }),
		c: evidence({}, { bytes: 60_000, weights: weights(60_000, 0.2) })
	};

	it('is made to fit in one click, and what was foretold is what it then weighs', () => {
		const found = finding('fileSize', { evidence: heavy });
		expect(found).toMatchObject({ level: 'blocks', pages: [2], fix: { label: 'Make 1 page smaller' } });
		expect(found.message).toContain('it is 349 KB; the writing keeps at least 90 %');
		const { packet, inverse } = apply(PACKET, found.fix!.change!);
		expect(packet.pages['b']!.encoding).toEqual(encoding);
		expect(finding('fileSize', { packet, evidence: heavy })).toMatchObject({
			level: 'clear',
			message: 'About 349 KB of 500 KB; page 2 made smaller to fit'
		});
		expect(apply(packet, inverse).packet).toEqual(PACKET);
	});

	it('waits for pages that have not been weighed', () => {
		const found = finding('fileSize', { evidence: { ...heavy, c: evidence() } });
		expect(found.message).toContain('working out how to make it fit');
		expect(found.fix?.change).toBeUndefined();
	});

	it('that cannot be made to fit names the pages that cost most', () => {
		const found = finding('fileSize', { evidence: heavy, ...sheet({ file: { maxBytes: 100_000 } }) });
		expect(found).toMatchObject({ level: 'blocks', pages: [1, 2, 3] });
		expect(found.message).toContain('Even in the smallest form that can still be read it is 259 KB');
	});

	it('moves a page to a smaller tone where that loses least', () => {
		const tone = { name: 'black-and-white', evenLight: true, inkWeight: 0 } as const;
		const b = evidence(
			{},
			{
				bytes: 900_000,
				weights: [...weights(900_000, 0.3)!, { tone, encoding: null, bytes: 20_000, loss: 0.1 }]
			}
		);
		const { packet } = apply(PACKET, finding('fileSize', { evidence: { ...heavy, b } }).fix!.change!);
		expect(packet.pages['b']).toMatchObject({ tone });
		expect(packet.pages['b']!.encoding).toBeUndefined();
	});
});

describe('words', () => {
	it('the clock tells what runs and when it ends', () => {
		const timed = { due: '2026-12-04T10:15:00+01:00', workUntil: '2026-12-04T10:00:00+01:00', grace: 5 };
		const at = (time: string) => clockAt(timed, Date.parse(`2026-12-04T${time}+01:00`));
		expect(at('09:59:30')).toEqual({ phase: 'working', left: 30_000 });
		expect(at('10:00:00')).toEqual({ phase: 'handing-in', left: 15 * 60_000 });
		expect(at('10:16:00')).toEqual({ phase: 'grace', left: 4 * 60_000 });
		expect(at('10:20:01')).toEqual({ phase: 'over', left: 301_000 });
		expect(clockAt({ due: timed.due }, Date.parse(timed.due) - 1)).toEqual({ phase: 'open', left: 1 });
		expect(clockAt({}, 0)).toBeNull();
		expect([899_001, 59_000, 3_729_000, -5].map(formatClock)).toEqual(['15:00', '00:59', '1:02:09', '00:00']);
	});

	it('due times keep their zone, durations go to the minute', () => {
		expect(formatDue('2026-12-04T18:00:00+01:00')).toBe('Fri 4 Dec 18:00 (UTC+1)');
		expect(formatDue('2026-07-01T09:30:00-03:30')).toBe('Wed 1 Jul 09:30 (UTC-3:30)');
		expect(formatDue('2026-12-04T17:00:00Z')).toBe('Fri 4 Dec 17:00 (UTC)');
		expect(formatDuration(30_000)).toBe('less than a minute');
		expect(formatDuration(125 * 60_000)).toBe('2 h 5 min');
		expect(formatDuration(3 * 86_400_000)).toBe('3 days');
		expect([812, 210_400, 4_600_000, 5_000_000, 23_000_000].map(formatBytes)).toEqual([
			'812 bytes',
			'210 KB',
			'4.6 MB',
			'5 MB',
			'23 MB'
		]);
	});

	it('the specimen tells a timed session and its grace period in one line', () => {
		const timed = { ...SHEET, workUntil: '2026-12-04T17:45:00+01:00', grace: 5 };
		const asked = describeRules(timed, INPUT.person);
		expect(asked.find((a) => a.rule === 'due')!.text).toBe(
			'Write until Fri 4 Dec 17:45 (UTC+1), then photograph and hand in by Fri 4 Dec 18:00 (UTC+1), taken for 5 minutes more'
		);
		expect(new Set(asked.map((a) => a.rule)).size).toBe(asked.length);
	});

	it('the specimen tells every rule the sheet sets', () => {
		const asked = describeRules(SHEET, INPUT.person);
		expect(asked.find((a) => a.rule === 'fileName')!.text).toContain('Brandsma_Ilka_HY-2_W3.pdf');
		expect(asked.find((a) => a.rule === 'pageCount')!.text).toBe('2 to 3 pages');
		expect(
			describeRules({ title: 'x', questions: [{ label: '1' }] }, INPUT.person).map((a) => a.rule)
		).toEqual(['allAnswered', 'legibility', 'fileName']);
	});
});

describe('parseRuleSheet', () => {
	it('takes the documented example and lists what can be answered', () => {
		expect(parseRuleSheet(JSON.parse(JSON.stringify(SHEET)))).toEqual(SHEET);
		expect(answerables(SHEET.questions).map((q) => q.id)).toEqual(['1', '2a', '2b', '3']);
	});

	const problemsOf = (change: object) => {
		try {
			parseRuleSheet({ ...SHEET, ...change });
			return [];
		} catch (error) {
			if (!(error instanceof RuleSheetError)) throw error;
			return error.problems;
		}
	};
	it.each([
		[{ title: '' }, 'title'],
		[{ questions: [] }, 'questions'],
		[{ questions: [{ label: 'Q 1' }] }, 'questions.0.label'],
		[{ questions: [{ label: '1', parts: [{ label: 'a', marks: -1 }] }] }, 'questions.0.parts.0.marks'],
		[{ questions: [{ label: '1' }, { label: '1' }] }, 'questions'],
		[{ due: '2026-12-04T18:00:00' }, 'due'],
		[{ due: 'tomorrow' }, 'due'],
		[{ workUntil: '2026-12-05T18:00:00+01:00' }, 'workUntil'],
		[{ due: undefined, grace: 5 }, 'grace'],
		[{ pages: { min: 5, max: 2 } }, 'pages'],
		[{ pages: { size: 'A3' } }, 'pages.size'],
		[{ file: { namePattern: '{surname}' } }, 'file.namePattern'],
		[{ file: { maxBytes: 5 } }, 'file.maxBytes'],
		[{ tone: ['sepia'] }, 'tone.0'],
		[{ levels: { pageCount: 'maybe' } }, 'levels.pageCount'],
		[{ colour: 'red' }, 'colour']
	])('names the field in %j', (change, field) => {
		const problems = problemsOf(change);
		expect(problems.map((p) => p.field)).toContain(field);
		expect(problems.every((p) => p.message.length > 10)).toBe(true);
	});

	it.each([
		[{ title: ' ' }, 'This is needed.'],
		[{ pages: { min: 5, max: 2 } }, 'At least must not be more than at most.'],
		[{ questions: [{ label: '1' }, { label: '1' }] }, 'The label "1" is there twice.'],
		[{ workUntil: '2026-12-05T18:00:00+01:00' }, 'Must come before the due time.'],
		[{ pages: { max: 'many' } }, 'Must be a number.']
	])('says what is wrong in %j beside the field, without its name', (change, plain) => {
		expect(problemsOf(change).map((p) => p.plain)).toEqual([plain]);
	});

	it('quotes the token it does not know, braces and all', () => {
		expect(problemsOf({ file: { namePattern: '{surname}' } })[0]!.message).toContain('no token {surname}');
	});

	it('refuses what is no rule sheet at all', () => {
		for (const bad of [null, 5, 'x', []]) expect(() => parseRuleSheet(bad)).toThrow(RuleSheetError);
	});
});

describe('what a person says of a label', () => {
	const questions = answerables([
		{ label: '1' },
		{ label: '2', parts: [{ label: 'a' }, { label: 'b' }] },
		{ label: 'Q' }
	]);
	it.each([
		['1', '1'],
		[' Question 1: ', '1'],
		['2b', '2b'],
		['Q2 (B)', '2b'],
		['2.a)', '2a'],
		['q', 'q']
	])('%s is %s', (text, id) => expect(questionSaid(text, questions)).toBe(id));
	it.each(['', '2', '3', 'Question', '2c'])('"%s" is none of the rule sheet', (text) =>
		expect(questionSaid(text, questions)).toBeNull()
	);
});

describe('list', () => {
	it('names a few, and of very many only the first', () => {
		const pages = (count: number) => Array.from({ length: count }, (_, i) => String(i + 1));
		expect([[], ['a'], ['a', 'b'], ['a', 'b', 'c']].map(list)).toEqual(['', 'a', 'a and b', 'a, b and c']);
		expect(list(pages(12))).toBe('1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11 and 12');
		expect(list(pages(100))).toBe('1, 2, 3, 4, 5, 6, 7, 8, 9, 10 and 90 more');
	});
});
