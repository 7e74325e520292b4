import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PacketView } from '../../src/lib/server/view/packetView';
import type { PhoneView } from '../../src/lib/server/view/phoneView';
import { Client, freePort, pause, seed, startApp, type RunningApp } from '../support/app';
import { jpeg, testPage, testPhotograph } from '../support/pictures';

const data = mkdtempSync(join(tmpdir(), 'membrana-phone-'));
let app: RunningApp;
let ilka: Client;
let packet: string;
let tobiasPacket: string;
let port: number;

beforeAll(async () => {
	const { assignment } = await seed(data);
	port = await freePort();
	app = await startApp(data, port);
	ilka = await Client.signIn(app.address, 'ilka');
	packet = await ilka.openPacket(assignment);
	tobiasPacket = await (await Client.signIn(app.address, 'tobias')).openPacket(assignment);
});
afterAll(() => app.kill('SIGTERM'));

async function link(): Promise<string> {
	const response = await ilka.send(`/api/packets/${packet}/phone-link`, {});
	expect(response.status).toBe(201);
	const { address } = (await response.json()) as { address: string };
	return address.slice(address.lastIndexOf('/') + 1);
}

/** A phone: no cookie, only the token. */
const phone = (token: string) => new Client(app.address, '', { 'x-phone-link': token });

describe('a phone link', () => {
	it('adds pages to its packet, which the computer sees with who brought them', async () => {
		const token = await link();
		const bytes = await jpeg(testPhotograph(testPage(3), { size: [600, 800] }).picture);
		const p = phone(token);
		const path = await p.beginUpload(packet, 'shot.jpg', bytes.length, { key: 'k1' });
		expect(await p.continueUpload(path, bytes, 0)).toBe(bytes.length);
		let view!: PacketView;
		for (let i = 0; i < 100; i++) {
			view = await ilka.json<PacketView>(`/api/packets/${packet}`);
			if (view.packet.strip.length === 1) break;
			await pause(100);
		}
		expect(view.packet.strip).toHaveLength(1);
		expect(view.phone).not.toBeNull();
		const seen = await p.json<PhoneView>(`/api/phone/${token}`);
		expect(seen).toMatchObject({ packetId: packet, owner: 'ilka' });
		expect(seen.brought).toEqual([{ key: 'k1', state: 'ready', problem: null }]);
		expect(JSON.stringify(seen)).not.toContain('Test');
	});

	it('opens nothing else', async () => {
		const token = await link();
		const p = phone(token);
		await expect(p.beginUpload(tobiasPacket, 'x.jpg', 10)).rejects.toThrow('404');
		for (const [method, path, body] of [
			['GET', `/api/packets/${packet}`],
			['GET', `/api/packets/${packet}/log`],
			['GET', `/api/packets/${packet}/events`],
			['GET', `/api/packets/${packet}/pictures/x/view`],
			['POST', `/api/packets/${packet}/changes`, { kind: 'undo', base: 0 }],
			['POST', `/api/packets/${packet}/file`, { version: 0, type: 'pdf' }],
			['POST', `/api/packets/${packet}/phone-link`, {}],
			['DELETE', `/api/packets/${packet}/phone-link`, {}]
		] as const) {
			const response = await (body ? p.send(path, body, method) : p.fetch(path, { method }));
			expect([path, response.status]).toEqual([path, 401]);
		}
		expect((await p.fetch('/')).status).toBe(303);
		// A phone may not take the place of a page that came another way.
		const bytes = Buffer.from('no picture');
		const view = await ilka.json<PacketView>(`/api/packets/${packet}`);
		const path = await p.beginUpload(packet, 'y.jpg', bytes.length, { replaces: view.packet.strip[0]! });
		await p.continueUpload(path, bytes, 0);
		expect((await ilka.json<PacketView>(`/api/packets/${packet}`)).packet.pages).toEqual(view.packet.pages);
	});

	it('ends when told, when another is made, and after its time; an upload under way stops too', async () => {
		const told = await link();
		const p = phone(told);
		const path = await p.beginUpload(packet, 'late.jpg', 100);
		expect((await ilka.fetch(`/api/packets/${packet}/phone-link`, { method: 'DELETE' })).status).toBe(200);
		expect((await p.fetch(`/api/phone/${told}`)).status).toBe(404);
		expect((await p.fetch(`/phone/${told}`)).status).toBe(404);
		await expect(p.continueUpload(path, Buffer.alloc(100), 0)).rejects.toThrow();
		await expect(p.beginUpload(packet, 'x.jpg', 10)).rejects.toThrow('404');

		const one = await link();
		const two = await link();
		expect((await p.fetch(`/api/phone/${one}`)).status).toBe(404);
		expect((await p.fetch(`/api/phone/${two}`)).status).toBe(200);

		await app.kill('SIGTERM');
		const db = new PGlite(join(data, 'database'));
		await db.query(`update phone_link set expires_at = now() - interval '1 second' where ended_at is null`);
		await db.close();
		app = await startApp(data, port);
		expect((await p.fetch(`/api/phone/${two}`)).status).toBe(404);
		await expect(phone(two).beginUpload(packet, 'x.jpg', 10)).rejects.toThrow('404');
	});

	it('cannot be guessed: 128 random bits, nothing of them in the database, and who tries is slowed down', async () => {
		const tokens = [await link(), await link(), await link()];
		for (const token of tokens) expect(token).toMatch(/^[A-Za-z0-9_-]{22}$/);
		expect(new Set(tokens).size).toBe(3);
		const good = tokens.at(-1)!;
		// One character away, in every place.
		const statuses = new Set<number>();
		for (let i = 0; i < good.length; i++) {
			const near = good.slice(0, i) + (good[i] === 'A' ? 'B' : 'A') + good.slice(i + 1);
			statuses.add((await ilka.fetch(`/api/phone/${near}`)).status);
		}
		expect(statuses.has(200)).toBe(false);
		expect(statuses.has(429)).toBe(true);
		expect((await ilka.fetch(`/api/phone/${good}`)).status).toBe(200);
		await app.kill('SIGTERM');
		const db = new PGlite(join(data, 'database'));
		const { rows } = await db.query('select * from phone_link');
		await db.close();
		app = await startApp(data, port);
		for (const token of tokens) expect(JSON.stringify(rows)).not.toContain(token);
	});
});
