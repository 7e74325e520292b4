import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PacketView } from '../../src/lib/server/packetView';
import { Client, freePort, seed, SHEET, startApp, type RunningApp } from '../support/app';

const data = mkdtempSync(join(tmpdir(), 'membrana-access-'));
let app: RunningApp;
let assignment: string;
let course: string;
let ilka: Client;
let packet: string;

beforeAll(async () => {
	({ assignment, course } = await seed(data));
	app = await startApp(data, await freePort());
	ilka = await Client.signIn(app.address, 'ilka');
	packet = await ilka.openPacket(assignment);
});
afterAll(() => app.kill('SIGTERM'));

/** Every way to a packet or an assignment. */
const ways = (): [string, string, unknown?][] => [
	['GET', `/packets/${packet}/gather`],
	['GET', `/api/packets/${packet}`],
	['GET', `/api/packets/${packet}/log`],
	['GET', `/api/packets/${packet}/events`],
	['GET', `/api/packets/${packet}/pages/x/view`],
	['GET', `/api/packets/${packet}/pages/x/flat`],
	['GET', `/api/packets/${packet}/pages/x/pictures`],
	['GET', `/api/packets/${packet}/files/${packet}`],
	['POST', `/api/packets/${packet}/changes`, { kind: 'undo', base: 0 }],
	['POST', `/api/packets/${packet}/file`, { version: 0, type: 'pdf' }],
	['POST', `/api/packets/${packet}/deliveries`, { file: packet, key: 'x'.repeat(20) }],
	['GET', `/api/packets/${packet}/files/${packet}/pages/1`],
	['GET', `/api/packets/${packet}/files/${packet}/manifest`],
	['POST', `/api/packets/${packet}/files/${packet}`, { password: 'reeds' }],
	['GET', `/api/packets/${packet}/destinations`],
	['GET', `/api/packets/${packet}/versions`],
	['DELETE', `/api/packets/${packet}/deliveries/${packet}`],
	['POST', `/api/packets/${packet}/deliveries/${packet}`, {}],
	['GET', `/api/packets/${packet}/deliveries/${packet}/receipt`],
	['GET', `/packets/${packet}/receipts/${packet}`],
	['POST', `/api/packets/${packet}/phone-link`, {}],
	['DELETE', `/api/packets/${packet}/phone-link`],
	['PUT', `/api/assignments/${assignment}`, { version: 1, ruleSheet: SHEET }],
	['POST', '/api/assignments', { course, ruleSheet: SHEET }],
	['GET', `/assignments/${assignment}`],
	['GET', `/assignments/${assignment}/class`]
];

/** Addresses that are open, or whose own tests say who may use them. */
const ELSEWHERE = [
	/^\/sign-(in|out)$/,
	/^\/phone\//,
	/^\/api\/phone\//,
	/^\/api\/uploads/,
	/^\/api\/demo-pictures/,
	/^\/$/,
	/^\/assignments\/(new|\[id\]\/packet)$/
];

/** Every method of every server route, and every page with data of its own. */
function routes(): [method: string, path: string][] {
	const files = readdirSync('src/routes', { recursive: true, encoding: 'utf8' });
	return files.flatMap((file): [string, string][] => {
		const path = `/${dirname(file)}`.replace(/^\/\.$/, '/');
		if (/\+(page|layout)\.server\.ts$/.test(file)) return [['GET', path]];
		if (!file.endsWith('+server.ts')) return [];
		const text = readFileSync(join('src/routes', file), 'utf8');
		return [...text.matchAll(/export const (GET|POST|PUT|PATCH|DELETE)\b/g)].map((m) => [m[1]!, path]);
	});
}

describe('who may see what', () => {
	it('every route is among those that are tried', () => {
		const left = routes()
			.filter(([, path]) => !ELSEWHERE.some((open) => open.test(path)))
			.filter(([method, path]) => {
				const like = new RegExp(`^${path.replace(/\[[^\]]+\]/g, '[^/]+')}(/[^/]+)?$`);
				return !ways().some(([m, at]) => m === method && like.test(at));
			});
		expect(left).toEqual([]);
	});

	it('nobody signed in: nothing', async () => {
		const nobody = new Client(app.address, '');
		for (const [method, path, body] of ways()) {
			const response = await (body ? nobody.send(path, body, method) : nobody.fetch(path, { method }));
			const isPage = !path.startsWith('/api/');
			expect([method, path, response.status]).toEqual([method, path, isPage ? 303 : 401]);
			if (isPage) expect(response.headers.get('location')).toMatch(/^\/sign-in/);
		}
	});

	it('another student, and a teacher of another course: as if it were not there', async () => {
		for (const login of ['tobias', 'other']) {
			const stranger = await Client.signIn(app.address, login);
			for (const [method, path, body] of ways()) {
				const response = await (body ? stranger.send(path, body, method) : stranger.fetch(path, { method }));
				expect([login, method, path, response.status]).toEqual([login, method, path, 404]);
			}
			await expect(stranger.beginUpload(packet, 'x.jpg', 10)).rejects.toThrow('404');
		}
		const upload = await ilka.beginUpload(packet, 'mine.jpg', 10);
		const tobias = await Client.signIn(app.address, 'tobias');
		await expect(tobias.uploadOffset(upload)).rejects.toThrow('404');
	});

	it('a teacher of the course opens a student’s packet, and the history says who did what', async () => {
		const maren = await Client.signIn(app.address, 'maren');
		const view = await maren.json<PacketView>(`/api/packets/${packet}`);
		expect(view).toMatchObject({ as: 'teacher', owner: { given: 'ilka' } });
		const change = { kind: 'setFileName', name: 'by-the-teacher' };
		const done = await maren.send(`/api/packets/${packet}/changes`, {
			kind: 'edit',
			base: view.version,
			change
		});
		expect(done.status).toBe(200);
		const log = await ilka.json<{ by: string }[]>(`/api/packets/${packet}/log`);
		expect(log[0]!.by).toBe('maren Test');
	});

	it('a student writes no rule sheet', async () => {
		expect(
			(await ilka.send(`/api/assignments/${assignment}`, { version: 1, ruleSheet: SHEET }, 'PUT')).status
		).toBe(404);
		expect((await ilka.fetch('/assignments/new')).status).toBe(404);
	});
});

describe('safety', () => {
	it('a request from another site is turned away', async () => {
		const response = await ilka.fetch(`/api/packets/${packet}/changes`, {
			method: 'POST',
			headers: { origin: 'http://elsewhere.example', 'content-type': 'application/json' },
			body: JSON.stringify({ kind: 'undo', base: 0 })
		});
		expect(response.status).toBe(403);
	});

	it('the session cookie is HttpOnly and SameSite, and signing in again and again is slowed', async () => {
		const attempt = (password: string) =>
			fetch(`${app.address}/sign-in`, {
				method: 'POST',
				redirect: 'manual',
				headers: { origin: app.address, accept: 'text/html' },
				body: new URLSearchParams({ login: 'tobias', password })
			});
		const good = (await attempt('sandbank')).headers.get('set-cookie')!;
		expect(good).toMatch(/HttpOnly/i);
		expect(good).toMatch(/SameSite=Lax/i);
		const statuses: number[] = [];
		for (let i = 0; i < 12; i++) statuses.push((await attempt('wrong')).status);
		expect(statuses[0]).toBe(400);
		expect(statuses.at(-1)).toBe(429);
	});

	it('pages come with a strict content security policy', async () => {
		const policy = (await ilka.fetch('/')).headers.get('content-security-policy')!;
		expect(policy).toContain("default-src 'self'");
		expect(policy).toContain("frame-ancestors 'none'");
		expect(policy).not.toContain("script-src 'self' 'unsafe-inline'");
	});

	it('nonsense is answered with a sentence', async () => {
		const post = (body: unknown) => ilka.send(`/api/packets/${packet}/changes`, body);
		expect(
			(await post({ kind: 'edit', base: 0, change: { kind: 'addPages', pages: [], at: 0 } })).status
		).toBe(400);
		expect((await post('x')).status).toBe(400);
		const stale = await post({ kind: 'edit', base: 0, change: { kind: 'setFileName', name: 'a' } });
		expect(stale.status).toBe(409);
		const { version } = (await stale.json()) as { version: number };
		const gone = await post({
			kind: 'edit',
			base: version,
			change: { kind: 'setTurn', page: 'none', turn: 90 }
		});
		expect(gone.status).toBe(422);
		expect(((await gone.json()) as { message: string }).message).toContain('not in the packet');
		expect((await ilka.send(`/api/packets/${packet}/file`, { version, type: 'pdf' })).status).toBe(422);
	});
});

describe('the data folder', () => {
	it('is refused to a second process, with a sentence, and stays with the first', async () => {
		const second = spawnSync(process.execPath, ['build-node/serve.js'], {
			encoding: 'utf8',
			timeout: 30_000,
			env: { ...process.env, MEMBRANA_DATA: data, HOST: '127.0.0.1', PORT: String(await freePort()) }
		});
		expect(second.status).toBe(1);
		expect(second.stderr).toContain('Another Membrana is already running');
		expect((await ilka.fetch(`/api/packets/${packet}`)).status).toBe(200);
	});
});
