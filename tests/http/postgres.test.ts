import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { PacketView } from '../../src/lib/server/view/packetView';
import { Client, fill, freePort, pause, startApp, until, type RunningApp } from '../support/app';
import { keep } from '../support/keep';
import { jpeg, testPage, testPhotograph } from '../support/pictures';
import { TestPostgres } from '../support/postgres';

const data = mkdtempSync(join(tmpdir(), 'membrana-shared-'));
let postgres: TestPostgres;
let environment: NodeJS.ProcessEnv;
let assignment: string;
const webs: RunningApp[] = [];
const workers: Worker[] = [];

interface Worker {
	readonly child: ChildProcess;
	readonly gone: Promise<void>;
}

function startWorker(): Worker {
	const child = spawn(process.execPath, ['build-node/work.js'], {
		stdio: ['ignore', 'ignore', 'inherit'],
		env: { ...process.env, ...environment, MEMBRANA_DATA: data, MEMBRANA_READER: 'off' }
	});
	return { child, gone: new Promise((done) => child.on('exit', () => done())) };
}

const startWeb = async () =>
	startApp(data, await freePort(), undefined, 'off', { ...environment, MEMBRANA_JOBS: 'off' });

beforeAll(async () => {
	postgres = new TestPostgres(await freePort());
	postgres.start();
	environment = { DATABASE_URL: postgres.url };
	({ assignment } = await fill(data, environment));
	webs.push(await startWeb(), await startWeb());
	workers.push(startWorker(), startWorker());
});
afterAll(async () => {
	for (const web of webs) await web.kill('SIGKILL');
	for (const { child, gone } of workers) {
		child.kill('SIGKILL');
		await gone;
	}
	postgres.stop('immediate');
});

/** The same person at another web process: sessions are in the database. */
const at = (web: RunningApp, client: Client) => new Client(web.address, client.cookie);
const photograph = async (seed: number) =>
	jpeg(testPhotograph(testPage(seed), { seed, size: [600, 800] }).picture, 88);
const prepared = async (client: Client, packet: string) =>
	Object.values((await client.json<PacketView>(`/api/packets/${packet}`)).pages).filter((p) => p.prepared)
		.length;

it('what happens at one web process is heard at the other, and pictures are seen at both', async () => {
	const first = await Client.signIn(webs[0]!.address, 'ilka');
	const second = at(webs[1]!, first);
	const packet = await first.openPacket(assignment);
	const abort = new AbortController();
	const stream = await second.fetch(`/api/packets/${packet}/events`, { signal: abort.signal });
	const reader = stream.body!.getReader();
	let heard = '';
	const listening = (async () => {
		for (;;) {
			const { done, value } = await reader.read();
			if (done) return;
			heard += Buffer.from(value).toString();
		}
	})().catch(() => undefined);
	await pause(500);
	heard = '';
	const bytes = await photograph(51);
	const path = await first.beginUpload(packet, 'shot.jpg', bytes.length);
	// Begun at one, ended at the other.
	const half = await first.continueUpload(path, bytes, 0, Math.floor(bytes.length / 2));
	await second.continueUpload(path, bytes, half);
	await until(async () => (await prepared(second, packet)) === 1);
	expect(heard).toContain('changed');
	const [page] = Object.entries((await second.json<PacketView>(`/api/packets/${packet}`)).pages);
	for (const client of [first, second]) {
		const thumb = await client.fetch(`/api/packets/${packet}/pictures/${page![1].key}/thumb`);
		expect(thumb.status).toBe(200);
	}
	abort.abort();
	await listening;
	// Signing out at one ends the streams at the other.
	const again = await second.fetch(`/api/packets/${packet}/events`);
	const ended = (async () => {
		const streamed = again.body!.getReader();
		for (;;) if ((await streamed.read()).done) return true;
	})();
	await first.fetch('/sign-out', { method: 'POST' });
	expect(await Promise.race([ended, pause(10_000).then(() => false)])).toBe(true);
});

it('each process killed in turn, and the database as well: nothing acknowledged is lost, and it goes on', async () => {
	const tobias = await Client.signIn(webs[0]!.address, 'tobias');
	const packet = await tobias.openPacket(assignment);
	let count = 0;
	/** Whichever web process answers; retried as a browser does. */
	const insist = async <T>(work: (client: Client) => Promise<T>): Promise<T> => {
		for (let i = 0; ; i++) {
			try {
				return await work(at(webs[i % webs.length]!, tobias));
			} catch (error) {
				if (i > 200) throw error;
				await pause(100);
			}
		}
	};
	const names: string[] = [];
	const bring = async () => {
		const bytes = await photograph(60 + count);
		const key = `k${count++}`;
		await insist(async (client) => {
			const path = await client.beginUpload(packet, `${key}.jpg`, bytes.length, { key });
			await client.continueUpload(path, bytes, 0);
		});
		const name = `edit-${key}`;
		await insist(async (client) => {
			const { version } = await client.json<PacketView>(`/api/packets/${packet}`);
			const change = { kind: 'setFileName', name };
			const body = { kind: 'edit', base: version, change };
			if ((await client.send(`/api/packets/${packet}/changes`, body)).status !== 200)
				throw new Error('again');
		});
		names.push(name);
	};
	await bring();
	await webs[0]!.kill('SIGKILL');
	await bring();
	webs[0] = await startWeb();
	for (const i of [0, 1]) {
		await bring();
		workers[i]!.child.kill('SIGKILL');
		await workers[i]!.gone;
		await bring();
		workers[i] = startWorker();
	}
	await webs[1]!.kill('SIGKILL');
	webs[1] = await startWeb();
	await bring();
	// The database goes: requests are told so at once, nobody dies, and all goes on when it is back.
	postgres.stop('immediate');
	const away = await at(webs[0]!, tobias).fetch(`/api/packets/${packet}`);
	expect([away.status, await away.text()]).toEqual([
		503,
		expect.stringContaining('Nothing you brought in is lost')
	]);
	await pause(1_500);
	postgres.start();
	await bring();
	for (const web of webs) expect(web.process.exitCode).toBeNull();
	for (const { child } of workers) expect(child.exitCode).toBeNull();
	await until(() => insist(async (client) => (await prepared(client, packet)) === count)).catch(
		() => undefined
	);
	const view = await insist((client) => client.json<PacketView>(`/api/packets/${packet}`));
	expect(view.sources.map((s) => [s.name, s.state]).sort()).toEqual(
		Array.from({ length: count }, (_, i) => [`k${i}.jpg`, 'ready']).sort()
	);
	expect(Object.values(view.pages).filter((p) => p.prepared)).toHaveLength(count);
	const log = await insist((client) =>
		client.json<{ change: { name?: string } }[]>(`/api/packets/${packet}/log`)
	);
	const kept = new Set(log.map((l) => l.change.name));
	for (const name of names) expect(kept).toContain(name);
});

it('is backed up while it runs, and restored into another database and folder', async () => {
	const home = mkdtempSync(join(tmpdir(), 'membrana-shared-backup-'));
	const backup = join(home, 'backup.tar');
	const tobias = await Client.signIn(webs[0]!.address, 'tobias');
	const packet = await tobias.openPacket(assignment);
	const before = await tobias.json<PacketView>(`/api/packets/${packet}`);
	expect(before.sources.length).toBeGreaterThan(3);
	expect(keep(data, ['backup', backup], environment)).toMatchObject({ status: 0 });
	expect(keep(data, ['check'], environment)).toMatchObject({
		status: 0,
		says: expect.stringContaining('every one is what it should be')
	});
	// Over a database in which there is something, nothing is restored.
	const restored = join(home, 'restored');
	const refused = keep(restored, ['restore', backup], environment);
	expect(refused).toMatchObject({ status: 1, says: expect.stringContaining('Restore into an empty one') });
	expect(existsSync(restored)).toBe(false);

	const elsewhere = { DATABASE_URL: postgres.url.replace(/\/postgres$/, '/elsewhere') };
	const client = new pg.Client(postgres.url);
	await client.connect();
	await client.query('create database elsewhere');
	await client.end();
	expect(keep(restored, ['restore', backup], elsewhere)).toMatchObject({ status: 0 });
	expect(keep(restored, ['check'], elsewhere).status).toBe(0);
	const web = await startApp(restored, await freePort(), undefined, 'off', elsewhere);
	try {
		const again = await Client.signIn(web.address, 'tobias');
		const after = await again.json<PacketView>(`/api/packets/${packet}`);
		expect(after.sources.map((s) => s.name)).toEqual(before.sources.map((s) => s.name));
		expect(after.version).toBe(before.version);
		await until(async () => (await prepared(again, packet)) === before.sources.length);
	} finally {
		await web.kill('SIGKILL');
	}
});
