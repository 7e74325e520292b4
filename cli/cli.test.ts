import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { overlap, type Quadrilateral } from '../src/lib/core/sheet/geometry';
import { jpeg, testPage, testPhotograph } from '../tests/support/pictures';

const folder = mkdtempSync(join(tmpdir(), 'membrana-cli-'));
const truths: Record<string, { corners: Quadrilateral; turn: number }> = {};
let halves: readonly [Quadrilateral, Quadrilateral];
const path = (name: string) => join(folder, name);

const RULES = {
	title: 'Worksheet 3',
	course: 'HY-2',
	questions: [{ label: '1' }],
	pages: { min: 2, max: 3, size: 'A4' },
	file: { namePattern: '{family}_{given}_{course}_W3', maxBytes: 2_000_000 }
};

beforeAll(async () => {
	const shots = {
		'scan 10.jpg': { page: 81, lies: 90 },
		'scan 9.jpg': { page: 82, lies: 0 },
		'scan 11.jpg': { page: 82, lies: 0, blur: 2.4 },
		'scan 12.jpg': { page: 83, lies: 180, blank: true }
	} as const;
	for (const [name, { page, lies, ...rest }] of Object.entries(shots)) {
		const empty = { blocks: [], name: undefined, pageNumber: undefined };
		const written = testPage(page, 'blank' in rest ? empty : {});
		const blur = 'blur' in rest ? rest.blur : 0.4;
		const shot = testPhotograph(written, { seed: name.length + page, lies, blur, desk: 'wood' });
		truths[name] = shot;
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
});

const run = (...args: string[]) =>
	spawnSync(process.execPath, ['build-node/cli.js', ...args], { encoding: 'utf8', timeout: 120_000 });

describe('inspect', () => {
	it('prints two objects for an open notebook, its left page first', () => {
		const result = run('inspect', path('notebook.jpg'));
		expect(result.status).toBe(0);
		const pages = result.stdout
			.trim()
			.split('\n')
			.map((line) => JSON.parse(line));
		expect(pages.map(({ sourcePage, half }) => [sourcePage, half])).toEqual([
			[0, 0],
			[0, 1]
		]);
		pages.forEach(({ outline }, i) => expect(overlap(outline.corners, halves[i]!)).toBeGreaterThan(0.95));
	});

	it('prints one object a page and nothing else; a bad file is an error line and exit 1', () => {
		const result = run(
			'inspect',
			path('scan 9.jpg'),
			path('words.jpg'),
			path('scan 10.jpg'),
			path('none.jpg')
		);
		expect(result.status).toBe(1);
		const lines = result.stdout
			.trim()
			.split('\n')
			.map((line) => JSON.parse(line));
		expect(lines.map((l) => l.source)).toEqual(['scan 9.jpg', 'words.jpg', 'scan 10.jpg', 'none.jpg']);
		expect(lines[1].error).toContain('not a picture');
		expect(lines[3].error).toContain('no file');
		for (const line of [lines[0], lines[2]]) {
			const truth = truths[line.source]!;
			expect(overlap(line.outline.corners, truth.corners)).toBeGreaterThan(0.98);
			expect(line.turn).toBe(truth.turn);
			expect(line).toMatchObject({ sourcePage: 0, size: 'A4', blank: false, reading: null });
			expect(line.legibility.score).toBeGreaterThan(0.6);
			expect(Object.keys(line.milliseconds)).toContain('decode');
		}
	});
});

describe('prepare', () => {
	const out = path('OUT.pdf');
	const prepare = (...files: string[]) =>
		run('prepare', '--rules', path('rules.json'), '--person', 'Ilka Brandsma', '-o', out, ...files.map(path));

	it('orders by name, sets aside the worse twin and the blank, writes PDF and JSON, and exits 2 when a rule blocks', () => {
		const result = prepare('scan 10.jpg', 'scan 11.jpg', 'scan 12.jpg', 'scan 9.jpg');
		expect([result.status, result.stderr]).toEqual([2, '']);
		const report = JSON.parse(readFileSync(path('OUT.json'), 'utf8'));
		const pdf = readFileSync(out);
		expect(report.file).toEqual({
			name: 'Brandsma_Ilka_HY-2_W3.pdf',
			bytes: pdf.length,
			sha256: createHash('sha256').update(pdf).digest('hex')
		});
		expect(report.pages.map((p: { source: string }) => p.source)).toEqual(['scan 9.jpg', 'scan 10.jpg']);
		expect(report.setAside).toEqual([
			{ source: 'scan 11.jpg', sourcePage: 0, reason: 'duplicate', of: 1 },
			{ source: 'scan 12.jpg', sourcePage: 0, reason: 'blank' }
		]);
		const levels = Object.fromEntries(
			report.findings.map((f: { rule: string; level: string }) => [f.rule, f.level])
		);
		expect(levels).toMatchObject({
			allAnswered: 'blocks',
			pageCount: 'clear',
			fileSize: 'clear',
			upright: 'clear'
		});
		expect(execFileSync('pdfinfo', [out], { encoding: 'utf8' })).toMatch(/Pages:\s+2/);
		// What was counted before the file was made is what came out, within a twentieth.
		const said = report.findings.find((f: { rule: string }) => f.rule === 'fileSize').message as string;
		const kilobytes = Number(/About (\d+) KB/.exec(said)![1]);
		expect(Math.abs(kilobytes * 1000 - pdf.length) / pdf.length).toBeLessThan(0.05);
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
