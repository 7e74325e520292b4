import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { hands } from '../demo/generator/hands';
import type { PhotographSpec } from '../demo/generator/photograph';
import type { Block } from '../demo/generator/writtenPage';
import { overlap, type Quadrilateral } from '../src/lib/core/sheet/geometry';
import { jpeg, testPage, testPhotograph } from '../tests/support/pictures';

const folder = mkdtempSync(join(tmpdir(), 'membrana-cli-'));
const truths: Record<string, { corners: Quadrilateral; turn: number }> = {};
let halves: readonly [Quadrilateral, Quadrilateral];
const path = (name: string) => join(folder, name);

/** Bytes that one page in greyscale does not fit in. */
const TIGHT = 40_000;

const RULES = {
	title: 'Worksheet 3',
	course: 'HY-2',
	questions: [{ label: '1' }, { label: '2', parts: [{ label: 'a' }, { label: 'b' }] }, { label: '3' }],
	pages: { min: 2, max: 3, size: 'A4' },
	file: { namePattern: '{family}_{given}_{course}_W3', maxBytes: 2_000_000 }
};

/** A packet out of order: its file names tell nothing. */
const SHOTS = {
	'shot a.jpg': { number: 3, labels: ['Q3'] },
	'shot b.jpg': { number: 1, labels: ['Q1', 'Q2a'], lies: 180 },
	'shot c.jpg': { number: 2, labels: ['2 (b)'] },
	'shot d.jpg': { number: 2, labels: ['2 (b)'], blur: 1.9, desk: 'dark' }
} as const satisfies Record<string, { number: number; labels: readonly string[] } & Partial<PhotographSpec>>;
/** Where each question begins: question, position, height. */
const PLACES: [string, number, number][] = [];

beforeAll(async () => {
	const shots = {
		'scan 10.jpg': { page: 81, lies: 90 },
		'scan 9.jpg': { page: 82, lies: 0 },
		'scan 12.jpg': { page: 83, lies: 180, blank: true }
	} as const;
	for (const [name, { page, lies, ...rest }] of Object.entries(shots)) {
		const empty = { blocks: [], name: undefined, pageNumber: undefined };
		const written = testPage(page, 'blank' in rest ? empty : {});
		const shot = testPhotograph(written, { seed: name.length + page, lies, blur: 0.4, desk: 'wood' });
		truths[name] = shot;
		writeFileSync(path(name), await jpeg(shot.picture));
	}
	for (const [name, { number, labels, ...photo }] of Object.entries(SHOTS)) {
		const blocks = labels.flatMap((text): Block[] => [
			{ kind: 'label', text },
			{ kind: 'text', lines: ['so we took three verticals here', 'and added what each of them gave'] },
			{ kind: 'space', lines: 2 }
		]);
		const written = testPage(90 + number, {
			hand: hands()[2]!,
			ruling: 'plain',
			pageNumber: `p. ${number}/3`,
			blocks
		});
		if (!('blur' in photo)) {
			written.labels.forEach(({ y }, i) => PLACES.push([labels[i]!.replace(/\W|Q/g, ''), number, y]));
		}
		const shot = testPhotograph(written, { seed: 40 + number, blur: 0.4, ...photo });
		writeFileSync(path(name), await jpeg(shot.picture));
	}
	const [left, right] = [84, 85].map((seed) => testPage(seed, { paper: 'A5' }).picture);
	const open = testPhotograph(
		{ picture: left!, labels: [] },
		{ seed: 3, size: [1600, 1200], opposite: right! }
	);
	halves = open.halves!;
	writeFileSync(path('notebook.jpg'), await jpeg(open.picture));
	writeFileSync(path('words.jpg'), 'just words');
	writeFileSync(path('rules.json'), JSON.stringify(RULES));
	const tight = { ...RULES, file: { ...RULES.file, maxBytes: TIGHT } };
	writeFileSync(path('tight.json'), JSON.stringify(tight));
});

const runIn = (env: NodeJS.ProcessEnv, ...args: string[]) =>
	spawnSync(process.execPath, ['build-node/cli.js', ...args], { encoding: 'utf8', timeout: 120_000, env });
const run = (...args: string[]) => runIn(process.env, ...args);

describe('inspect', () => {
	it('prints one object a page and nothing else, an open notebook’s left page first; a bad file is an error line and exit 1', () => {
		const files = ['scan 9.jpg', 'words.jpg', 'scan 10.jpg', 'none.jpg', 'notebook.jpg'];
		const result = run('inspect', ...files.map(path));
		expect(result.status).toBe(1);
		const lines = result.stdout
			.trim()
			.split('\n')
			.map((line) => JSON.parse(line));
		expect(lines.map((l) => l.source)).toEqual([...files, 'notebook.jpg']);
		expect(lines[1].error).toContain('not a picture');
		expect(lines[3].error).toContain('no file');
		for (const line of [lines[0], lines[2]]) {
			const truth = truths[line.source]!;
			expect(overlap(line.outline.corners, truth.corners)).toBeGreaterThan(0.98);
			expect(line.turn).toBe(truth.turn);
			expect(line).toMatchObject({ sourcePage: 0, size: 'A4', blank: false });
			expect(line.reading.labels[0]).toMatchObject({ text: 'Q1', question: '1' });
			expect(line.reading.text).toContain('velocity');
			expect(line.legibility.score).toBeGreaterThan(0.6);
			expect(Object.keys(line.milliseconds)).toContain('decode');
		}
		lines.slice(4).forEach(({ sourcePage, half, outline }, i) => {
			expect([sourcePage, half]).toEqual([0, i]);
			expect(overlap(outline.corners, halves[i]!)).toBeGreaterThan(0.95);
		});
		// The second one is in a plainer hand.
		const { reading } = lines[2];
		expect(reading.name.text).toMatch(/ Brandsma$/);
		expect(reading.pageNumber).toMatchObject({ number: 1, of: 4 });
		expect(reading.labels.map((l: { question: string }) => l.question)).toEqual(['1', '2']);
	});
});

describe('reading', () => {
	it('leaves nothing on the computer: no record of its use, no number for it', () => {
		const home = mkdtempSync(join(tmpdir(), 'membrana-home-'));
		const own = { HOME: home, XDG_CACHE_HOME: home, XDG_CONFIG_HOME: home, TMPDIR: home };
		const { status, stdout } = runIn({ ...process.env, ...own }, 'inspect', path('shot c.jpg'));
		expect(status).toBe(0);
		expect((JSON.parse(stdout) as { reading: { text: string } }).reading.text).toContain('verticals');
		expect(readdirSync(home)).toEqual([]);
	});
});

describe('without the reader', () => {
	it('inspect says what was measured, and prepare makes the file', () => {
		const inspected = run('inspect', '--no-reading', path('scan 9.jpg'), path('scan 12.jpg'));
		expect([inspected.status, inspected.stderr]).toEqual([0, '']);
		const [page, blank] = inspected.stdout
			.trim()
			.split('\n')
			.map((line) => JSON.parse(line));
		expect(page.reading).toBeUndefined();
		expect(page.milliseconds.reading).toBeUndefined();
		expect(page).toMatchObject({ source: 'scan 9.jpg', turn: 0, size: 'A4', blank: false });
		expect(blank.blank).toBe(true);
		const out = path('UNREAD.pdf');
		const args = ['--rules', path('rules.json'), '--person', 'Ilka Brandsma', '--no-reading', '-o', out];
		expect(run('prepare', ...args, path('scan 9.jpg'), path('shot a.jpg')).status).toBe(2);
		expect(execFileSync('pdfinfo', [out], { encoding: 'utf8' })).toMatch(/Pages:\s+2/);
	});
});

describe('prepare', () => {
	const out = path('OUT.pdf');
	const prepare = (...files: string[]) => prepareBy('rules.json', ...files);
	const prepareBy = (rules: string, ...files: string[]) =>
		run('prepare', '--rules', path(rules), '--person', 'Ilka Brandsma', '-o', out, ...files.map(path));

	it('puts a shuffled packet in order, maps it, sets aside what does not belong, and writes a clear PDF and JSON', () => {
		const result = prepare('shot c.jpg', 'shot a.jpg', 'shot d.jpg', 'shot b.jpg', 'scan 12.jpg');
		expect([result.status, result.stderr]).toEqual([0, '']);
		const report = JSON.parse(readFileSync(path('OUT.json'), 'utf8'));
		const pdf = readFileSync(out);
		expect(report.file).toEqual({
			name: 'Brandsma_Ilka_HY-2_W3.pdf',
			bytes: pdf.length,
			sha256: createHash('sha256').update(pdf).digest('hex')
		});
		expect(report.pages.map((p: { source: string }) => p.source)).toEqual([
			'shot b.jpg',
			'shot c.jpg',
			'shot a.jpg'
		]);
		expect(report.pages.map((p: { pageNumber: { number: number } }) => p.pageNumber.number)).toEqual([
			1, 2, 3
		]);
		expect(report.setAside).toEqual([
			{ source: 'scan 12.jpg', sourcePage: 0, reason: 'blank' },
			{ source: 'shot d.jpg', sourcePage: 0, reason: 'duplicate', of: 2 }
		]);
		expect(report.missing).toEqual([]);
		const map = new Map<string, { position: number; top: number }[]>(
			report.map.map((m: { question: string; stretches: [] }) => [m.question, m.stretches])
		);
		for (const [question, position, y] of PLACES) {
			expect(map.get(question)![0]!.position, question).toBe(position);
			expect(Math.abs(map.get(question)![0]!.top - y), question).toBeLessThan(0.03);
		}
		expect(report.findings.filter((f: { level: string }) => f.level !== 'clear')).toEqual([]);
		expect(execFileSync('pdfinfo', [out], { encoding: 'utf8' })).toMatch(/Pages:\s+3/);
		expect(execFileSync('pdftotext', [out, '-'], { encoding: 'utf8' })).toMatch(/verticals/);
		// What was counted before the file was made is what came out, within a twentieth.
		const said = report.findings.find((f: { rule: string }) => f.rule === 'fileSize').message as string;
		const kilobytes = Number(/About (\d+) KB/.exec(said)![1]);
		expect(Math.abs(kilobytes * 1000 - pdf.length) / pdf.length).toBeLessThan(0.05);
	});

	it('exits 2 when a rule blocks, and makes smaller what is too large', () => {
		const result = prepareBy('tight.json', 'shot b.jpg');
		expect(result.status).toBe(2);
		expect(readFileSync(out).length).toBeLessThanOrEqual(TIGHT);
		expect(execFileSync('qpdf', ['--check', out], { encoding: 'utf8' })).toContain('No syntax');
		const report = JSON.parse(readFileSync(path('OUT.json'), 'utf8'));
		const levels = Object.fromEntries(
			report.findings.map((f: { rule: string; level: string }) => [f.rule, f.level])
		);
		expect(levels).toMatchObject({
			pageCount: 'blocks',
			allAnswered: 'blocks',
			fileSize: 'clear',
			upright: 'clear'
		});
	});

	it('exits 1 with a sentence on an error, and writes nothing', () => {
		for (const [args, words] of [
			[['prepare'], 'Use: membrana prepare'],
			[
				['prepare', '--rules', path('none.json'), '--person', 'I B', '-o', path('x.pdf'), path('scan 9.jpg')],
				'cannot be read'
			],
			[
				['prepare', '--rules', path('words.jpg'), '--person', 'I B', '-o', path('x.pdf'), path('scan 9.jpg')],
				'not JSON'
			],
			[
				['prepare', '--rules', path('rules.json'), '--person', 'I B', '-o', path('x.pdf'), path('words.jpg')],
				'words.jpg'
			],
			[['dance'], 'Use: membrana']
		] as const) {
			const result = run(...args);
			expect(result.status).toBe(1);
			expect(result.stderr).toContain(words);
			expect(result.stdout).toBe('');
		}
		expect(() => readFileSync(path('x.pdf'))).toThrow();
	});
});
