import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PDFDocument, rgb } from '@cantoo/pdf-lib';
import { beforeAll, describe, expect, it } from 'vitest';
import { samplePacket } from '../bench/packets';
import { blankBack, feed, type FedPage } from '../bench/stacks/feed';

/** A packet in cuts.json, as far as it is looked at here. */
interface CutReport {
	readonly person: { readonly sourcedId: string; readonly confidence: number } | null;
	readonly pages: readonly { readonly sourcePage: number }[];
}

const folder = mkdtempSync(join(tmpdir(), 'membrana-cut-'));
const path = (name: string) => join(folder, name);
const PEOPLE = ['Ilka Brandsma', 'Tobias Okoro', 'Senna Amsel'];
const ROSTER = `sourcedId,role,givenName,familyName\n${PEOPLE.map((p, i) => `s0${i + 1},student,${p.replace(' ', ',')}`).join('\n')}\n`;
const QUESTIONS = [{ label: '1' }, { label: '2' }, { label: '3' }];
/** Which of the pages begin packets, in the pile. */
const begins: number[] = [];
let count = 0;

beforeAll(async () => {
	const pages: FedPage[] = [];
	PEOPLE.slice(0, 2).forEach((person, i) => {
		const inClass = { person, roster: PEOPLE, questions: QUESTIONS, named: 'all', length: 0.3 } as const;
		const packet = samplePacket(7100 + i, { hands: 'demo' }, inClass);
		begins.push(pages.length);
		pages.push(...packet.pages.map(({ spec }): FedPage => ({ spec, lies: 0 })));
	});
	pages.push(blankBack(pages[0]!));
	count = pages.length;
	writeFileSync(path('pile.pdf'), await feed(pages, 3));
	writeFileSync(
		path('rules.json'),
		JSON.stringify({ title: 'Worksheet 3', course: 'HY-2', questions: QUESTIONS })
	);
	writeFileSync(path('roster.csv'), ROSTER);
});

const cut = (...args: string[]) =>
	spawnSync('./membrana', ['cut', '--rules', path('rules.json'), ...args], { encoding: 'utf8' });

describe('membrana cut', () => {
	it('cuts a pile into each person’s packet, and says who is missing', () => {
		const out = path('out');
		const { status, stderr } = cut('--roster', path('roster.csv'), '-o', out, path('pile.pdf'));
		// Somebody is missing, so it should be looked at.
		expect([status, stderr]).toEqual([2, '']);
		const report = JSON.parse(readFileSync(join(out, 'cuts.json'), 'utf8'));
		expect(report.packets.map((p: { person: { sourcedId: string } }) => p.person.sourcedId)).toEqual([
			's01',
			's02'
		]);
		expect(report.cuts.map((c: { sourcePage: number }) => c.sourcePage)).toEqual(begins.slice(1));
		expect(report.missing).toEqual(['s03']);
		expect(report.setAside).toEqual([{ source: 'pile.pdf', sourcePage: count - 1, reason: 'blank' }]);
		for (const { file, pages } of report.packets) {
			expect(readFileSync(join(out, file)).subarray(0, 5).toString()).toBe('%PDF-');
			const json = JSON.parse(readFileSync(join(out, file.replace('.pdf', '.json')), 'utf8'));
			expect(json.pages.length).toBe(pages.length);
		}
	});

	it('goes by cover sheets and coloured paper between packets where no name is written', async () => {
		const covers = path('covers.pdf');
		const printed = spawnSync(
			'./membrana',
			['covers', '--rules', path('rules.json'), '--roster', path('roster.csv'), '-o', covers],
			{ encoding: 'utf8' }
		);
		expect([printed.status, printed.stderr]).toEqual([0, '']);
		const pages = await Promise.all(
			PEOPLE.map(async (person, i) => {
				const inClass = { person, roster: PEOPLE, questions: QUESTIONS, named: 'none', length: 0.2 } as const;
				const { pages } = samplePacket(7200 + i, { hands: 'demo' }, inClass);
				return feed(
					pages.slice(0, 2).map(({ spec }): FedPage => ({ spec, lies: 0 })),
					50 + i
				);
			})
		);
		const pile = await PDFDocument.create();
		const lay = async (bytes: Uint8Array, which?: number) => {
			const from = await PDFDocument.load(bytes);
			const all = which === undefined ? from.getPageIndices() : [which];
			for (const page of await pile.copyPages(from, all)) pile.addPage(page);
		};
		const wanted = [];
		for (const [i, sourcedId] of [
			[2, 's03'],
			[0, 's01'],
			[1, null]
		] as const) {
			if (sourcedId) await lay(readFileSync(covers), i);
			else pile.addPage([595, 842]).drawRectangle({ width: 595, height: 842, color: rgb(0.98, 0.92, 0.5) });
			const from = pile.getPageCount();
			await lay(pages[i]!);
			wanted.push([from, pile.getPageCount() - from, sourcedId]);
		}
		writeFileSync(path('parted.pdf'), await pile.save());

		cut('--roster', path('roster.csv'), '-o', path('parted'), path('parted.pdf'));
		const { packets, setAside } = JSON.parse(readFileSync(path('parted/cuts.json'), 'utf8'));
		const found = packets.map(({ pages, person }: CutReport) => [
			Math.min(...pages.map((p) => p.sourcePage)),
			pages.length,
			person && person.confidence >= 0.5 ? person.sourcedId : null
		]);
		expect(found).toEqual(wanted);
		expect(packets[0].person.because).toEqual(['their cover sheet lies before it']);
		expect(setAside.map((s: { reason: string }) => s.reason)).toEqual(['cover', 'cover', 'cover']);
	});

	it('says what is wrong with a roster, and writes nothing', () => {
		const tries: [string, RegExp][] = [
			['givenName,familyName\nIlka,Brandsma\n', /no column sourcedId/],
			['sourcedId,givenName,familyName\ns1,,\n', /lacks a sourcedId or a name in line 2/],
			['sourcedId,givenName,familyName\ns1,A,B\ns1,C,D\n', /has s1 twice/],
			['sourcedId,givenName,familyName\n', /nobody in it/]
		];
		for (const [text, problem] of tries) {
			writeFileSync(path('bad.csv'), text);
			const { status, stderr } = cut('--roster', path('bad.csv'), '-o', path('bad'), path('pile.pdf'));
			expect([status, problem.test(stderr)]).toEqual([1, true]);
		}
		expect(existsSync(path('bad'))).toBe(false);
		expect(cut('--roster', path('none.csv'), '-o', path('bad'), path('pile.pdf')).stderr).toMatch(
			/cannot be read/
		);
	});
});

describe('membrana bundle', () => {
	const bundle = (...args: string[]) => spawnSync('./membrana', ['bundle', ...args], { encoding: 'utf8' });
	const read = (name: string) => JSON.parse(readFileSync(path(name), 'utf8'));

	it('puts everybody’s answers to a question into one file, under codes, without a name anywhere', () => {
		const made = bundle(
			'--question',
			'1',
			'--question',
			'2',
			'--seed',
			'reeds',
			'-o',
			path('bundles'),
			path('out')
		);
		expect(made.stderr).toBe('');
		const key = readFileSync(path('bundles/codes.csv'), 'utf8');
		const codes = new Map([...key.matchAll(/^(\w{4}),(s0\d),/gm)].map((m) => [m[2]!, m[1]!]));
		expect(codes.size).toBe(2);
		const one = read('bundles/question-1.json');
		expect(one.answers.map((a: { code: string }) => a.code).sort()).toEqual([...codes.values()].sort());
		expect(made.status).toBe([one, read('bundles/question-2.json')].some((q) => q.look.length > 0) ? 2 : 0);
		const pdf = path(`bundles/${one.files[0].name}`);
		const told =
			spawnSync('pdftotext', [pdf, '-'], { encoding: 'utf8' }).stdout +
			spawnSync('pdfinfo', [pdf], { encoding: 'utf8' }).stdout +
			readFileSync(path('bundles/question-1.json'), 'utf8');
		for (const code of codes.values()) expect(told).toContain(code);
		for (const name of PEOPLE.flatMap((p) => p.split(' ')))
			expect(told.toLowerCase()).not.toContain(name.toLowerCase());
		expect(one.answers.every((a: { page: number }) => a.page >= 1)).toBe(true);
		expect(spawnSync('qpdf', ['--check', pdf]).status).toBe(0);
	});

	it('keeps the codes that are in its folder, and the order of a seed', () => {
		const before = [readFileSync(path('bundles/codes.csv'), 'utf8'), read('bundles/question-1.json').answers];
		bundle('--question', '1', '--seed', 'reeds', '--graders', '2', '-o', path('bundles'), path('out'));
		const { files, answers } = read('bundles/question-1.json');
		expect([
			readFileSync(path('bundles/codes.csv'), 'utf8'),
			answers.map((a: { code: string }) => a.code)
		]).toEqual([before[0], before[1].map((a: { code: string }) => a.code)]);
		expect(files.map((f: { name: string }) => f.name)).toEqual([
			'question-1-part-1-of-2.pdf',
			'question-1-part-2-of-2.pdf'
		]);
	});

	it('says what is wrong with what it is asked for', () => {
		const tries: [string[], RegExp][] = [
			[['--question', '9', '-o', path('none'), path('out')], /no question 9. There are: 1, 2, 3/],
			[['--order', 'name', '-o', path('none'), path('out')], /--order is one of roster, random, code/],
			[['--graders', '0', '-o', path('none'), path('out')], /--graders is a number/],
			[['-o', path('none'), folder], /cannot be read. Give the folder that membrana cut wrote/],
			[[path('out')], /Use: membrana bundle/]
		];
		for (const [args, problem] of tries) {
			const { status, stderr } = bundle(...args);
			expect([status, stderr]).toEqual([1, expect.stringMatching(problem)]);
		}
		expect(existsSync(path('none'))).toBe(false);
	});
});
