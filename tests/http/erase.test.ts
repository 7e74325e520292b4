import { mkdtempSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { PacketView } from '../../src/lib/server/view/packetView';
import { Client, freePort, seed, startApp, until, type RunningApp } from '../support/app';
import { jpeg, testPage, testPhotograph } from '../support/pictures';

const data = mkdtempSync(join(tmpdir(), 'membrana-erase-'));
let app: RunningApp;
let wessel: Client;
let assignment: string;
let course: string;
const packets: Record<string, string> = {};

const post = (path: string, fields: Record<string, string> = {}) =>
	wessel.fetch(path, { method: 'POST', headers: { accept: 'text/html' }, body: new URLSearchParams(fields) });
const files = (folder: string) =>
	readdirSync(join(data, folder), { recursive: true, withFileTypes: true }).filter((f) => f.isFile()).length;

/** Brings a picture in, and waits until its page is prepared. */
async function bringIn(login: string, bytes: Buffer): Promise<void> {
	const client = await Client.signIn(app.address, login);
	packets[login] ??= await client.openPacket(assignment);
	const path = await client.beginUpload(packets[login], 'a.jpg', bytes.length);
	await client.continueUpload(path, bytes, 0);
	await until(async () => {
		const pages = Object.values((await client.json<PacketView>(`/api/packets/${packets[login]}`)).pages);
		return pages.length > 0 && pages.every((p) => p.prepared);
	});
}

beforeAll(async () => {
	({ assignment, course } = await seed(data));
	app = await startApp(data, await freePort());
	wessel = await Client.signIn(app.address, 'wessel');
	const [shared, own] = [testPage(3), testPage(4)].map(
		(page) => testPhotograph(page, { size: [900, 1200] }).picture
	);
	await bringIn('tobias', await jpeg(shared!));
	await bringIn('ilka', await jpeg(shared!));
	await bringIn('ilka', await jpeg(own!));
});
afterAll(() => app.kill('SIGTERM'));

it('a person who is erased leaves no name and no page, and others lose nothing', async () => {
	const html = await (await wessel.fetch('/school/people?find=ilka')).text();
	const person = /name="person" value="([0-9a-f-]+)"/.exec(html)![1]!;
	expect((await post('/school/people?/erase', { person })).status).toBe(400);
	await post('/school/people?/archive', { person });
	const told = await (await post('/school/people?/holdings', { person })).text();
	expect(told).toContain('Erase ilka Test?');
	expect(told).toMatch(/1 packet with\s+2 originals/);
	expect(files('vault')).toBe(2);
	expect((await post('/school/people?/erase', { person })).status).toBe(200);
	// The picture that another packet holds as well is still there.
	expect(files('vault')).toBe(1);
	const tobias = await Client.signIn(app.address, 'tobias');
	const view = await tobias.json<PacketView>(`/api/packets/${packets.tobias}`);
	const [page] = Object.values(view.pages);
	expect((await tobias.fetch(`/api/packets/${packets.tobias}/pictures/${page!.key}/view`)).status).toBe(200);
	for (const path of ['/school/people', '/school/deeds', `/courses/${course}`]) {
		expect(await (await wessel.fetch(path)).text()).not.toContain('ilka');
	}
});

it('a course is deleted only out of the archive, with everything in it', async () => {
	expect((await post(`/courses/${course}?/delete`)).status).toBe(400);
	await post(`/courses/${course}?/archive`);
	expect(await (await post(`/courses/${course}?/holdings`)).text()).toMatch(/1 rule sheet, 1 packet/);
	// What is being prepared at that moment is not to outlive it either.
	const late = testPhotograph(testPage(5), { size: [2400, 3200] }).picture;
	const bytes = await jpeg(late);
	const student = await Client.signIn(app.address, 'tobias');
	const upload = await student.beginUpload(packets.tobias!, 'late.jpg', bytes.length);
	await student.continueUpload(upload, bytes, 0);
	await until(async () =>
		Object.keys((await student.json<PacketView>(`/api/packets/${packets.tobias}`)).pages).length > 1
			? true
			: null
	);
	expect((await post(`/courses/${course}?/delete`)).headers.get('location')).toBe('/school');
	expect((await wessel.fetch(`/courses/${course}`)).status).toBe(404);
	expect(files('vault')).toBe(0);
	const pictures = () =>
		readdirSync(join(data, 'derived'), { recursive: true, encoding: 'utf8' }).filter((name) =>
			/\.(jpg|png|g4)$/.test(name)
		);
	// Long enough for whatever was under way to end.
	await new Promise((done) => setTimeout(done, 6_000));
	expect(await until(() => Promise.resolve(pictures().length === 0 ? 'none' : null))).toBe('none');
	const tobias = await Client.signIn(app.address, 'tobias');
	expect((await tobias.fetch(`/api/packets/${packets.tobias}`)).status).toBe(404);
	expect((await tobias.fetch('/')).status).toBe(200);
});
