import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdirSync, mkdtempSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { unzipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { BundleRow, PageToLookThrough } from '../../src/lib/server/store/bundles';
import { Client, freePort, seed, startApp, until, type RunningApp } from '../support/app';
import { answerWith } from '../support/handIn';
import { jpeg, testPage } from '../support/pictures';

const data = mkdtempSync(join(tmpdir(), 'membrana-bundle-'));
let app: RunningApp;
let maren: Client;
let assignment: string;
let port: number;
const packets: Record<string, string> = {};

/** Hands in one page, all of which answers question 1. */
async function answer(login: string, sheet: number): Promise<void> {
	const student = await Client.signIn(app.address, login);
	const bytes = await jpeg(testPage(sheet).picture, 85);
	packets[login] = (await answerWith(student, assignment, bytes)).packet;
}

beforeAll(async () => {
	({ assignment } = await seed(data));
	port = await freePort();
	// Without the reader nothing is known of names, so that a person looks at every page.
	app = await startApp(data, port);
	maren = await Client.signIn(app.address, 'maren');
	await answer('ilka', 31);
	await answer('tobias', 32);
});
afterAll(() => app.kill('SIGTERM'));

const bundles = () => maren.json<BundleRow[]>(`/api/assignments/${assignment}/bundles`);
const make = (question: string | null, options: object = {}) =>
	maren.send(`/api/assignments/${assignment}/bundles`, { question, options });
const settled = (question: string | null) =>
	until(async () => {
		const found = (await bundles()).find((b) => b.question === question);
		return found && found.state !== 'making' ? found : null;
	});
const bytesOf = async (bundle: BundleRow, file = 0) =>
	Buffer.from(await (await maren.fetch(`/api/bundles/${bundle.id}/files/${file}`)).arrayBuffer());

describe('a bundle', () => {
	it('waits until somebody has looked where names are not surely hidden, then is made', async () => {
		await make('1', { order: 'roster' });
		const unsure = await settled('1');
		expect(unsure).toMatchObject({ state: 'unsure', look: 2, files: [] });
		expect((await maren.fetch(`/api/bundles/${unsure.id}/files/0`)).status).toBe(404);
		const pages = await maren.json<PageToLookThrough[]>(`/api/bundles/${unsure.id}/look`);
		expect(pages.map((p) => p.packetId).sort()).toEqual(Object.values(packets).sort());
		const confirm = (page: PageToLookThrough, more: object = {}) =>
			maren.send(`/api/bundles/${unsure.id}/look`, {
				packet: page.packetId,
				page: page.pageId,
				key: page.key,
				boxes: [[0, 0, 1, 0.075]],
				...more
			});
		expect((await confirm(pages[0]!, { key: 'another' })).status).toBe(409);
		expect(await (await confirm(pages[0]!)).json()).toEqual({ left: 1 });
		expect(await (await confirm(pages[1]!)).json()).toEqual({ left: 0 });
		const made = await settled('1');
		expect(made).toMatchObject({ state: 'ready', without: [] });
		expect(made.files.map((f) => [f.name, f.answers.length])).toEqual([['question-1.pdf', 2]]);
		const pdf = await bytesOf(made);
		expect(createHash('sha256').update(pdf).digest('hex')).toBe(made.files[0]!.sha256);
		const key = await (await maren.fetch(`/api/assignments/${assignment}/codes`)).text();
		const [ilka, tobias] = ['ilka', 'tobias'].map(
			(name) => new RegExp(`^(\\w{4}),,${name},Test$`, 'm').exec(key)![1]!
		);
		expect(made.files[0]!.answers.map((a) => a.code)).toEqual([ilka, tobias]);
		const text = execFileSync('pdftotext', ['-', '-'], { input: pdf, encoding: 'utf8' });
		expect(text).toContain(ilka);
		expect(text).not.toMatch(/ilka|tobias/i);
	});

	it('is made again without asking twice, with the same codes, split as is asked', async () => {
		const [before] = await bundles();
		await make('1', { order: 'roster', graders: 2 });
		const again = await settled('1');
		expect(again.files.map((f) => f.name)).toEqual([
			'question-1-part-1-of-2.pdf',
			'question-1-part-2-of-2.pdf'
		]);
		expect(again.files.flatMap((f) => f.answers.map((a) => a.code))).toEqual(
			before!.files.flatMap((f) => f.answers.map((a) => a.code))
		);
		// Of the one before nothing is kept.
		expect(readdirSync(join(data, 'derived', 'bundles'))).toEqual([again.id]);
	});

	it('of a question that there is not, or in an unknown order, is refused', async () => {
		expect((await make('9')).status).toBe(422);
		expect((await make('1', { order: 'by-mood' })).status).toBe(400);
	});

	it('goes on after the process was killed while it was made', async () => {
		await make('1', { order: 'code' });
		await app.kill('SIGKILL');
		app = await startApp(data, port);
		maren = await Client.signIn(app.address, 'maren');
		expect(await settled('1')).toMatchObject({ state: 'ready' });
	});
});

describe('a bag', () => {
	it('holds everything with checksums that any tool can check', async () => {
		await make(null);
		const bag = await settled(null);
		const [file] = bag.files;
		expect(file!.name).toBe('HY-2 Worksheet 9.zip');
		const folder = mkdtempSync(join(tmpdir(), 'membrana-bag-'));
		const files = unzipSync(await bytesOf(bag));
		for (const [name, bytes] of Object.entries(files)) {
			mkdirSync(join(folder, dirname(name)), { recursive: true });
			writeFileSync(join(folder, name), bytes);
		}
		const cwd = join(folder, 'HY-2 Worksheet 9');
		for (const hash of ['sha256', 'sha512']) {
			for (const manifest of [`manifest-${hash}.txt`, `tagmanifest-${hash}.txt`]) {
				execFileSync(`${hash}sum`, ['--check', '--strict', '--quiet', manifest], { cwd });
			}
		}
		const text = (name: string) => Buffer.from(files[`HY-2 Worksheet 9/${name}`]!).toString('utf8');
		expect(text('bagit.txt')).toBe('BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n');
		const payload = Object.keys(files).filter((n) => n.includes('/data/'));
		const listed = text('manifest-sha512.txt')
			.trim()
			.split('\n')
			.map((l) => l.slice(130));
		expect(listed.sort()).toEqual(payload.map((n) => n.slice('HY-2 Worksheet 9/'.length)).sort());
		expect(listed).toContain('data/bundles/question-1.pdf');
		expect(text('bag-info.txt')).toContain(`.${payload.length}\n`);
		expect(JSON.parse(text('data/rule-sheet.json'))).toMatchObject({ title: 'Worksheet 9' });
	});
});

it('goes when somebody in it is erased', async () => {
	const wessel = await Client.signIn(app.address, 'wessel');
	const html = await (await wessel.fetch('/school/people?find=ilka')).text();
	const person = /name="person" value="([0-9a-f-]+)"/.exec(html)![1]!;
	const post = (action: string) =>
		wessel.fetch(`/school/people?/${action}`, { method: 'POST', body: new URLSearchParams({ person }) });
	expect((await post('archive')).status).toBe(200);
	expect((await post('erase')).status).toBe(200);
	expect(await bundles()).toEqual([]);
	expect(readdirSync(join(data, 'derived', 'bundles'))).toEqual([]);
});
