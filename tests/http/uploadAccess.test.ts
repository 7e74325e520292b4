import { existsSync, mkdtempSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PacketView } from '../../src/lib/server/view/packetView';
import { Client, freePort, pause, seed, startApp, until, type RunningApp } from '../support/app';
import { jpeg, testPage, testPhotograph } from '../support/pictures';

const data = mkdtempSync(join(tmpdir(), 'membrana-upload-access-'));
let app: RunningApp;
let port: number;
let hers: string;
let his: string;
let ilka: Client;
/** Everybody who may bring something somewhere, with the packets that they may bring it to. */
let people: { who: string; client: Client; may: (packet: string, link: string | null) => boolean }[];
/** Running uploads, with their packet and the phone link that they came through. */
let uploads: { path: string; packet: string; link: string | null }[];

beforeAll(async () => {
	const { assignment } = await seed(data);
	port = await freePort();
	app = await startApp(data, port);
	ilka = await Client.signIn(app.address, 'ilka');
	const tobias = await Client.signIn(app.address, 'tobias');
	const maren = await Client.signIn(app.address, 'maren');
	const other = await Client.signIn(app.address, 'other');
	hers = await ilka.openPacket(assignment);
	his = await tobias.openPacket(assignment);
	const herPhone = await phoneOf(ilka, hers);
	const hisPhone = await phoneOf(tobias, his);
	people = [
		{ who: 'ilka', client: ilka, may: (p) => p === hers },
		{ who: 'tobias', client: tobias, may: (p) => p === his },
		{ who: 'the teacher', client: maren, may: () => true },
		{ who: 'another teacher', client: other, may: () => false },
		{ who: 'nobody', client: new Client(app.address, ''), may: () => false },
		{ who: 'her phone', client: herPhone, may: (p, link) => p === hers && link === 'hers' },
		{ who: 'his phone', client: hisPhone, may: (p, link) => p === his && link === 'his' },
		{
			who: 'an ended link',
			client: new Client(app.address, '', { 'x-phone-link': 'A'.repeat(22) }),
			may: () => false
		}
	];
	uploads = [
		{ path: await ilka.beginUpload(hers, 'hers.jpg', 100), packet: hers, link: null },
		{ path: await tobias.beginUpload(his, 'his.jpg', 100), packet: his, link: null },
		{ path: await herPhone.beginUpload(hers, 'phone.jpg', 100), packet: hers, link: 'hers' },
		{ path: await hisPhone.beginUpload(his, 'phone.jpg', 100), packet: his, link: 'his' }
	];
});
afterAll(() => app.kill('SIGTERM'));

async function phoneOf(client: Client, packet: string): Promise<Client> {
	const { address } = (await (await client.send(`/api/packets/${packet}/phone-link`, {})).json()) as {
		address: string;
	};
	const token = address.slice(address.lastIndexOf('/') + 1);
	return new Client(app.address, '', { 'x-phone-link': token });
}

const TUS = { 'tus-resumable': '1.0.0' };
const base64 = (text: string) => Buffer.from(text).toString('base64');
const patch = (client: Client, path: string, headers: Record<string, string> = {}) =>
	client.fetch(path, {
		method: 'PATCH',
		headers: { ...TUS, 'upload-offset': '0', 'content-type': 'application/offset+octet-stream', ...headers },
		body: 'x'
	});
const begin = (
	client: Client,
	metadata: string,
	path = '/api/uploads',
	headers: Record<string, string> = {}
) =>
	client.fetch(path, {
		method: 'POST',
		headers: { ...TUS, 'upload-length': '10', 'upload-metadata': metadata, ...headers }
	});
const id = (path: string) => path.slice(path.lastIndexOf('/') + 1);
/** How much of each upload has come, and how many there are: what nobody may change who may not. */
const state = () => JSON.stringify(readdirSync(join(data, 'uploads')).sort());

describe('who may do what to which upload', () => {
	it('each person, phone and nobody, against each upload, by each method: only their own', async () => {
		for (const { who, client, may } of people) {
			for (const { path, packet, link } of uploads) {
				const allowed = may(packet, link);
				for (const method of ['HEAD', 'DELETE'] as const) {
					const answer = await client.fetch(path, { method, headers: TUS });
					const expected = !allowed ? [401, 404, 429] : method === 'HEAD' ? [200] : [405];
					expect(expected, `${who} ${method} ${path}`).toContain(answer.status);
				}
				if (!allowed) {
					const answer = await patch(client, path);
					expect([401, 404, 429], `${who} PATCH`).toContain(answer.status);
					expect(await ilkaOrHis(path, packet)).toBe(0);
				}
			}
		}
	});

	/** The offset of an upload, as who may see it sees it. */
	async function ilkaOrHis(path: string, packet: string): Promise<number> {
		return people.find((p) => p.who === (packet === hers ? 'ilka' : 'tobias'))!.client.uploadOffset(path);
	}

	it('each person beginning an upload into each packet: only their own', async () => {
		for (const { who, client, may } of people) {
			for (const packet of [hers, his]) {
				const answer = await begin(client, `packet ${base64(packet)},name ${base64('x.jpg')}`);
				const link = who.endsWith('phone') ? (who.startsWith('her') ? 'hers' : 'his') : null;
				if (may(packet, link)) expect([who, answer.status]).toEqual([who, 201]);
				else expect([401, 404, 429], who).toContain(answer.status);
			}
		}
	});

	it('no address means two uploads: a query, a second number, or an encoding is refused', async () => {
		const tobias = people.find((p) => p.who === 'tobias')!.client;
		const [mine, other] = [uploads[1]!.path, uploads[0]!.path];
		const before = await ilka.uploadOffset(other);
		const addresses = [
			`${mine}?/${id(other)}`,
			`${mine}?x=/${id(other)}`,
			`${mine}?/`,
			`${mine}/${id(other)}`,
			`${mine}%2F${id(other)}`,
			`${mine}/../${id(other)}`,
			`${mine}%00`,
			`${mine};/${id(other)}`,
			`${mine}.json`,
			`/api/uploads/?/${id(other)}`
		];
		for (const address of addresses) {
			for (const answer of [
				await patch(tobias, address),
				await tobias.fetch(address, { method: 'HEAD', headers: TUS })
			]) {
				// A slash at the end is taken off by a redirect, which touches nothing.
				expect(answer.status, address).toBeGreaterThanOrEqual(300);
				expect(answer.status, address).toBeLessThan(500);
				expect(answer.headers.get('upload-metadata'), address).toBeNull();
			}
		}
		expect(await ilka.uploadOffset(other)).toBe(before);
	});

	it('a new upload goes to the packet that was asked about, whatever else its headers say', async () => {
		const tobias = people.find((p) => p.who === 'tobias')!.client;
		const before = state();
		const [own, foreign, name] = [
			`packet ${base64(his)}`,
			`packet ${base64(hers)}`,
			`name ${base64('x.jpg')}`
		];
		const tries = [
			// To the address of one's own upload, with another's packet in the metadata.
			await begin(tobias, `${foreign},${name}`, uploads[1]!.path),
			await begin(tobias, `${foreign},${name}`, `/api/uploads?/${id(uploads[1]!.path)}`),
			// Two packets in one header: which one counts is not for the client to say.
			await begin(tobias, `${own},${name},${foreign}`),
			await begin(tobias, `${foreign},${name},${own}`),
			await begin(tobias, `${own},${own}`),
			// A method in a header.
			await begin(tobias, `${own},${name}`, '/api/uploads', { 'x-http-method-override': 'PATCH' }),
			await patch(tobias, uploads[1]!.path, { 'x-http-method-override': 'DELETE' })
		];
		for (const answer of tries) {
			expect(answer.status).toBeGreaterThanOrEqual(400);
			expect(answer.status).toBeLessThan(500);
		}
		expect(state()).toBe(before);
	});
});

describe('uploads that are not what they should be', () => {
	const small = async (seed: number) =>
		jpeg(testPhotograph(testPage(seed), { seed, size: [400, 540] }).picture, 85);
	const view = (client = ilka, packet = hers) => client.json<PacketView>(`/api/packets/${packet}`);
	const bring = async (name: string, bytes: Buffer, more: Record<string, string>) =>
		ilka.continueUpload(await ilka.beginUpload(hers, name, bytes.length, more), bytes, 0);

	it('a file that replaces itself, or a ring of files that replace each other, ends nothing', async () => {
		await bring('self.jpg', await small(31), { key: 'self', replaces: 'key:self' });
		await bring('a.jpg', await small(32), { key: 'ring-a', replaces: 'key:ring-b' });
		await bring('b.jpg', await small(33), { key: 'ring-b', replaces: 'key:ring-a' });
		await until(async () => {
			const { sources } = await view();
			return ['self.jpg', 'a.jpg', 'b.jpg'].every(
				(name) => sources.find((s) => s.name === name)?.state === 'ready'
			);
		});
		expect((await ilka.fetch('/')).status).toBe(200);
	});

	it('NUL and other text that cannot be kept is refused at the door, and the rest is kept', async () => {
		for (const [key, value] of [
			['name', 'a\0b.jpg'],
			['key', 'k\0'],
			['after', '\0'],
			['replaces', 'key:\0']
		] as const) {
			const answer = await begin(ilka, `packet ${base64(hers)},${key} ${base64(value)}`);
			expect([key, answer.status]).toEqual([key, 400]);
			expect(await answer.text()).toContain('characters');
		}
		// A pair of surrogates is not cut in two where a name is too long.
		const bytes = await small(34);
		await bring(`${'x'.repeat(299)}😀.jpg`, bytes, { key: `${'k'.repeat(79)}😀` });
		const { sources } = await view();
		expect(sources.some((s) => s.name === 'x'.repeat(299))).toBe(true);
	});

	it('leaves no files of uploads behind, and who asks again learns that they are complete', async () => {
		const bytes = await small(35);
		const path = await ilka.beginUpload(hers, 'once.jpg', bytes.length);
		await ilka.continueUpload(path, bytes, 0);
		expect(existsSync(join(data, 'uploads', id(path)))).toBe(false);
		expect(existsSync(join(data, 'uploads', `${id(path)}.json`))).toBe(false);
		expect(await ilka.uploadOffset(path)).toBe(bytes.length);
		expect((await patch(ilka, path)).status).toBe(409);
		await expect(people[1]!.client.uploadOffset(path)).rejects.toThrow('404');
	});

	it('one that cannot be settled is set apart at the start, and everything else goes on', async () => {
		await app.kill('SIGKILL');
		const folder = join(data, 'uploads');
		const put = (number: string, metadata: Record<string, string>) => {
			const upload = { id: number, size: 3, offset: 0, metadata, creation_date: new Date().toISOString() };
			writeFileSync(join(folder, number), 'abc');
			writeFileSync(join(folder, `${number}.json`), JSON.stringify(upload));
		};
		const [gone, nul, rubbish] = ['1'.repeat(32), '2'.repeat(32), '3'.repeat(32)] as const;
		put(gone, { packet: '00000000-0000-4000-8000-000000000000', name: 'x' });
		put(nul, { packet: hers, name: 'a\0b', by: 'nobody' });
		put(rubbish, { packet: hers, name: 'good.txt' });
		writeFileSync(join(folder, `${'4'.repeat(32)}.json`), '{ not JSON');
		app = await startApp(data, port);
		const { sources } = await view();
		expect(sources.some((s) => s.name === 'good.txt')).toBe(true);
		expect(readdirSync(join(data, 'set apart'))).toEqual(
			expect.arrayContaining([gone, `${gone}.json`, nul, `${nul}.json`])
		);
		expect(app.output()).toContain('set apart');
		await pause(50);
		expect(app.process.exitCode).toBeNull();
	});
});
