import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { specimenPage } from '../../bench/situations';
import { encodePreview } from '../../src/lib/server/codec/encode';
import { freePort, until } from '../support/app';

const place = mkdtempSync(join(tmpdir(), 'membrana-made-'));
const folder = join(place, 'made');
let serving: ChildProcess | null = null;

beforeAll(() => {
	execFileSync('./membrana', ['build', folder], { stdio: 'pipe' });
}, 400_000);
afterAll(() => {
	serving?.kill();
	rmSync(place, { recursive: true, force: true });
});

const installed = () =>
	readdirSync(join(folder, 'node_modules')).flatMap((name) =>
		name.startsWith('@')
			? readdirSync(join(folder, 'node_modules', name)).map((inner) => `${name}/${inner}`)
			: [name]
	);

describe('what `build` makes', () => {
	it('has no compiler, no test fonts and nothing of the demo in it', () => {
		const names = installed();
		expect(names).toContain('sharp');
		for (const name of [
			'vite',
			'typescript',
			'assemblyscript',
			'svelte',
			'vitest',
			'smtp-server',
			'mailparser'
		]) {
			expect(names).not.toContain(name);
		}
		expect(names.filter((n) => n.startsWith('@fontsource/'))).toEqual(['@fontsource/ibm-plex-sans']);
		for (const file of ['demo.js', 'bench.js', 'training.js', 'portal.js']) {
			expect(existsSync(join(folder, 'build-node', file))).toBe(false);
		}
		const refused = () =>
			execFileSync(join(folder, 'membrana'), ['demo'], { stdio: 'pipe', encoding: 'utf8' });
		expect(refused).toThrow(/needs Membrana's sources/);
	});

	it('reads and prepares pages', async () => {
		const picture = join(place, 'page.jpg');
		writeFileSync(picture, await encodePreview(specimenPage(4711, 6).picture, 2400, 90));
		const told = execFileSync(join(folder, 'membrana'), ['inspect', picture], { encoding: 'utf8' });
		expect(JSON.parse(told)).toMatchObject({
			turn: 0,
			blank: false,
			reading: { labels: [{ question: '1' }, { question: '2' }] }
		});
	});

	it('serves the application', async () => {
		const port = await freePort();
		serving = spawn(join(folder, 'membrana'), ['serve'], {
			env: { ...process.env, PORT: String(port), MEMBRANA_DATA: join(place, 'data') },
			stdio: ['ignore', 'pipe', 'pipe']
		});
		let out = '';
		serving.stdout!.on('data', (chunk) => (out += String(chunk)));
		serving.stderr!.on('data', (chunk) => (out += String(chunk)));
		const address = await until(async () => /http:\/\/127\.0\.0\.1:\d+\/first\/\S+/.exec(out)?.[0] ?? null);
		const page = await until(() => fetch(address).catch(() => null));
		expect(page.status).toBe(200);
		const licences = await fetch(`http://127.0.0.1:${port}/licences.json`);
		expect(((await licences.json()) as { name: string }[]).map((l) => l.name)).toContain('svelte');
	});
});

describe('NOTICE', () => {
	const notice = () => readFileSync('NOTICE.md', 'utf8');

	it('is the one of what is shipped', () => {
		expect(notice()).toBe(readFileSync(join(folder, 'NOTICE.md'), 'utf8'));
	});

	it('has the text of the licence of the models beside them', () => {
		const models = join(folder, 'build-node', 'models');
		expect(readdirSync(models).sort()).toEqual(['LICENSE', 'detector.onnx', 'recogniser.onnx']);
		expect(readFileSync(join(models, 'LICENSE'), 'utf8')).toContain('Apache License');
	});

	it('names every installed package, and no licence that was not looked at', () => {
		const named = new Set([...notice().matchAll(/[\w@/.-]+/g)].map(([name]) => name));
		expect(installed().filter((name) => !name.startsWith('.') && !named.has(name))).toEqual([]);
		const licences = [...notice().matchAll(/^- \*\*([^*]+)\*\*: [@a-z(]/gm)].map(([, licence]) => licence);
		const known =
			/^\(?(MIT|MIT-0|ISC|0BSD|BSD-[23]-Clause|Apache-2\.0|OFL-1\.1|LGPL-3\.0(-or-later)?|BlueOak-1\.0\.0|Zlib|CC0-1\.0)\b/;
		expect(licences.length).toBeGreaterThan(8);
		expect(licences.filter((licence) => !known.test(licence!))).toEqual([]);
	});
});
