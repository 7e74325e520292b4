import { mkdtempSync, readdirSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PacketView } from '../../src/lib/server/view/packetView';
import { Client, freePort, pause, seed, SHEET, startApp, type RunningApp } from '../support/app';

const data = mkdtempSync(join(tmpdir(), 'membrana-hostile-'));
let app: RunningApp;
let assignment: string;
let ilka: Client;
let packet: string;

beforeAll(async () => {
	({ assignment } = await seed(data));
	app = await startApp(data, await freePort());
	ilka = await Client.signIn(app.address, 'ilka');
	packet = await ilka.openPacket(assignment);
});
afterAll(() => app.kill('SIGTERM'));

const view = () => ilka.json<PacketView>(`/api/packets/${packet}`);
const edit = async (change: unknown, more: object = {}) =>
	ilka.send(`/api/packets/${packet}/changes`, {
		kind: 'edit',
		base: (await view()).version,
		change,
		...more
	});

describe('text that a database cannot hold', () => {
	const BAD = ['\0', 'a\0b', '\ud800', 'x\udc00', '\udbff\ud800'];

	it('is refused in every field of every body, with a sentence and never a 500', async () => {
		const maren = await Client.signIn(app.address, 'maren');
		for (const bad of BAD) {
			const question = { label: bad };
			const answers = [
				await edit({ kind: 'setFileName', name: bad }),
				await edit({ kind: 'setDeclined', key: bad, declined: true }),
				await edit({ kind: 'setNote', rule: 'pageCount', note: bad }),
				await edit({ kind: 'setAttempted', question: bad, attempted: false }),
				await edit({ kind: 'setFileName', name: 'fine' }, { key: bad }),
				await ilka.send(`/api/packets/${packet}/deliveries`, { file: packet, key: bad.padEnd(20, 'k') }),
				await ilka.send(`/api/packets/${packet}/deliveries`, {
					file: packet,
					key: 'k'.repeat(20),
					comment: bad
				}),
				await ilka.send(`/api/packets/${packet}/files/${packet}`, { password: bad.padEnd(8, 'p') }),
				await maren.send(
					`/api/assignments/${assignment}`,
					{ version: 1, ruleSheet: { ...SHEET, questions: [question] } },
					'PUT'
				),
				await ilka.send('/api/proof', { statement: bad, signature: 'x', publicKey: 'y' })
			];
			for (const answer of answers) {
				expect(answer.status).toBeGreaterThanOrEqual(400);
				expect(answer.status).toBeLessThan(500);
				expect(await answer.text()).toMatch(/characters|match|at least/);
			}
		}
		// Text that only looks like it is kept as it is.
		expect((await edit({ kind: 'setNote', rule: 'pageCount', note: 'C:\\u0000 and 😀' })).status).toBe(200);
		expect((await view()).packet.notes?.pageCount).toBe('C:\\u0000 and 😀');
	});

	it('is refused in addresses and forms', async () => {
		for (const path of [
			`/api/packets/${packet}/pictures/%00/view`,
			`/api/packets/${packet}/news?version=-1&news=x&sheet=9e99`,
			'/sign-in?next=%00',
			'/packets/%00/gather'
		]) {
			expect([path, (await ilka.fetch(path)).status]).toEqual([path, 400]);
		}
		for (const login of ['a\0', 'ilka\0']) {
			const answer = await fetch(`${app.address}/sign-in`, {
				method: 'POST',
				headers: { origin: app.address },
				body: new URLSearchParams({ login, password: 'x' })
			});
			expect(answer.status).toBe(400);
		}
	});
});

describe('bodies that are too long', () => {
	it('are refused by their route’s limit, by length and while they come, and nobody waits for them', async () => {
		const megabytes = (n: number) => 'x'.repeat(n * 1e6);
		const cases: [path: string, method: string, body: string, limit: number][] = [
			[`/api/packets/${packet}/changes`, 'POST', JSON.stringify({ pad: megabytes(30) }), 256],
			['/api/assignments', 'POST', JSON.stringify({ pad: megabytes(5) }), 256],
			[`/api/packets/${packet}/deliveries`, 'POST', JSON.stringify({ pad: megabytes(1) }), 16]
		];
		for (const [path, method, body, limit] of cases) {
			const answer = await ilka
				.fetch(path, { method, body, headers: { 'content-type': 'application/json' } })
				// Cut while it was still sending: refused as well.
				.catch(() => null);
			if (!answer) continue;
			expect([path, answer.status]).toEqual([path, 413]);
			expect(await answer.text()).toContain(`${limit} thousand bytes`);
		}
		expect(await chunked('/sign-in', 60)).toBe(413);
		expect(await chunked(`/api/packets/${packet}/changes`, 30, ilka.cookie)).toBe(413);
		expect((await ilka.fetch('/')).status).toBe(200);
	});

	/** Sends megabytes without saying how many there will be. */
	function chunked(path: string, megabytes: number, cookie = ''): Promise<number> {
		return new Promise((done) => {
			const sending = request(`${app.address}${path}`, {
				method: 'POST',
				headers: {
					origin: app.address,
					cookie,
					'content-type': path === '/sign-in' ? 'application/x-www-form-urlencoded' : 'application/json',
					'transfer-encoding': 'chunked'
				}
			});
			let status = 0;
			sending.on('response', (response) => {
				status = response.statusCode ?? 0;
				response.resume();
				done(status);
			});
			sending.on('error', () => done(status || 413));
			const chunk = Buffer.alloc(100_000, 'x');
			let left = megabytes * 10;
			const push = () => {
				while (left-- > 0 && !sending.destroyed && status === 0) {
					if (!sending.write(chunk)) return void sending.once('drain', push);
				}
				sending.end();
			};
			push();
		});
	}

	it('what a packet may hold ends somewhere, with a sentence', async () => {
		const many = Array.from({ length: 2000 }, (_, i) => ({
			kind: 'setDeclined',
			key: `proposal ${i}`,
			declined: true
		}));
		expect((await edit({ kind: 'together', changes: many })).status).toBe(200);
		const one = await edit({ kind: 'setDeclined', key: 'one more', declined: true });
		expect([one.status, await one.text()]).toEqual([422, expect.stringContaining('at most 2000')]);
		expect(
			(await ilka.send(`/api/packets/${packet}/changes`, { kind: 'undo', base: (await view()).version }))
				.status
		).toBe(200);
	});
});

describe('signing in', () => {
	const attempt = (login: string, password: string, path = '/sign-in') =>
		fetch(app.address + path, {
			method: 'POST',
			redirect: 'manual',
			headers: { origin: app.address, accept: 'text/html' },
			body: new URLSearchParams({ login, password })
		});

	it('blanks and capitals do not make another name of it', async () => {
		const statuses: number[] = [];
		for (let i = 0; i < 12; i++) {
			statuses.push((await attempt(`${' '.repeat(i % 5)}${i % 2 ? 'MAREN' : 'maren'}  `, 'wrong')).status);
		}
		expect(statuses.slice(0, 5)).toEqual([400, 400, 400, 400, 400]);
		expect(statuses.at(-1)).toBe(429);
		// Slowed, not locked: the wait is short at first, and then the right password opens.
		const wait = Number((await attempt('maren', 'wrong')).headers.get('retry-after'));
		expect(wait).toBeGreaterThan(0);
		expect(wait).toBeLessThanOrEqual(8);
		await pause(1000 * wait + 200);
		expect((await attempt('maren', 'sandbank')).status).toBe(303);
	});

	it('leads to a path of this site, whatever it is asked for', async () => {
		for (const next of [
			'/%09/other.example',
			'/%0a/other.example',
			'/%0d%0aset-cookie:x=1',
			'//other.example',
			'/%5cother.example',
			'%5c%5cother.example',
			'https://other.example/',
			'/ok%0d%0a'
		]) {
			const answer = await attempt('tobias', 'sandbank', `/sign-in?next=${next}`);
			expect([next, answer.status]).toEqual([next, 303]);
			const location = answer.headers.get('location')!;
			expect(new URL(location, app.address).origin, next).toBe(app.address);
		}
		const good = await attempt('tobias', 'sandbank', '/sign-in?next=/packets/x/gather%3Fa=1');
		expect(good.headers.get('location')).toBe('/packets/x/gather?a=1');
	});
});

describe('open streams', () => {
	/** Listens until the server ends the stream; says whether it did within some seconds. */
	async function ends(client: Client, path: string, act: () => Promise<unknown>): Promise<boolean> {
		const abort = new AbortController();
		const answer = await client.fetch(path, { signal: abort.signal });
		expect(answer.status).toBe(200);
		const reader = answer.body!.getReader();
		await reader.read();
		await act();
		const late = pause(5_000).then(() => false);
		const read = (async () => {
			for (;;) if ((await reader.read()).done) return true;
		})().catch(() => true);
		const ended = await Promise.race([read, late]);
		abort.abort();
		return ended;
	}

	it('end when who listens signs out', async () => {
		const tobias = await Client.signIn(app.address, 'tobias');
		const own = await tobias.openPacket(assignment);
		const path = `/api/packets/${own}/events`;
		expect(await ends(tobias, path, () => tobias.fetch('/sign-out', { method: 'POST' }))).toBe(true);
		expect((await tobias.fetch(path)).status).toBe(401);
	});

	it('end when a phone link ends, and not before', async () => {
		const make = async () => {
			const answer = await ilka.send(`/api/packets/${packet}/phone-link`, {});
			const { address } = (await answer.json()) as { address: string };
			return address.slice(address.lastIndexOf('/') + 1);
		};
		const nobody = new Client(app.address, '');
		const path = `/api/phone/${await make()}/events`;
		expect(await ends(nobody, path, () => edit({ kind: 'setFileName', name: 'news' }))).toBe(false);
		const end = () => ilka.fetch(`/api/packets/${packet}/phone-link`, { method: 'DELETE' });
		expect(await ends(nobody, path, end)).toBe(true);
	});
});

describe('what answers say of themselves', () => {
	it('pages, JSON, redirects and files of the interface: none is guessed at, what is personal is kept nowhere', async () => {
		const script = readdirSync('build/client/_app/immutable/entry')[0]!;
		const answers = [
			await ilka.fetch('/'),
			await ilka.fetch(`/packets/${packet}/gather`),
			await ilka.fetch(`/api/packets/${packet}`),
			await new Client(app.address, '').fetch('/'),
			await ilka.fetch('/api/packets/nothing'),
			await ilka.fetch(`/_app/immutable/entry/${script}`)
		];
		for (const answer of answers) expect(answer.headers.get('x-content-type-options')).toBe('nosniff');
		for (const answer of answers.slice(0, 5)) {
			expect(answer.headers.get('cache-control')).toMatch(/no-store/);
		}
		expect(answers[3]!.status).toBe(303);
		expect(answers[5]!.status).toBe(200);
	});

	it('a student’s desk does not say how far the class is', async () => {
		const data = await (await ilka.fetch('/__data.json')).text();
		expect(data).toContain('Worksheet 9');
		const page = await (await ilka.fetch('/')).text();
		const teacher = await (await (await Client.signIn(app.address, 'maren')).fetch('/')).text();
		expect(teacher).toMatch(/students:2/);
		expect(page).toMatch(/students:null/);
	});
});
