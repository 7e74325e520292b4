import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startMail, type RunningMail } from '../../standins/mail/mail';
import { Client, freePort, seed, startApp, until, type RunningApp } from '../support/app';

const data = mkdtempSync(join(tmpdir(), 'membrana-come-in-'));
let app: RunningApp;
let mail: RunningMail;
let wessel: Client;
let course: string;

beforeAll(async () => {
	({ course } = await seed(data));
	mail = await startMail({ folder: mkdtempSync(join(tmpdir(), 'membrana-letters-')), port: 0, pagePort: 0 });
	app = await startApp(data, await freePort(), undefined, 'off', {
		MEMBRANA_SMTP: mail.server,
		MEMBRANA_MAIL_FROM: 'hand-in@alderfen.example'
	});
	wessel = await Client.signIn(app.address, 'wessel');
});
afterAll(async () => {
	await app.kill('SIGTERM');
	await mail.close();
});

const nobody = () => new Client(app.address, '');
const post = (client: Client, path: string, fields: Record<string, string>) =>
	client.fetch(path, { method: 'POST', headers: { accept: 'text/html' }, body: new URLSearchParams(fields) });

/** Adds somebody, and gives the link out of the letter that they are sent. */
async function invited(login: string): Promise<string> {
	await post(wessel, '/school/people?/add', {
		given: 'Senna',
		family: 'Vartiainen',
		login,
		email: `${login}@alderfen.example`
	});
	await post(nobody(), '/forgotten', { called: login });
	return linkTo(login, 1);
}

async function linkTo(login: string, letter: number): Promise<string> {
	const letters = await until(async () => {
		const own = (await mail.letters()).filter((l) => l.to.includes(`${login}@alderfen.example`));
		return own.length >= letter && own;
	});
	const links = letters.map((l) => new URL(/http\S+\/come-in\/\S+/.exec(l.text)![0]).pathname);
	const works = await Promise.all(links.map(async (path) => (await nobody().fetch(path)).status === 200));
	return links[works.indexOf(true)]!;
}

describe('a way in', () => {
	it('by mail works once, for a password that is worth one', async () => {
		const path = await invited('senna');
		expect((await nobody().fetch(path)).status).toBe(200);
		for (const password of ['short', 'sennasenna', 'qwertyuiop']) {
			expect([password, (await post(nobody(), path, { password })).status]).toEqual([password, 400]);
		}
		const tries = await Promise.all(
			[1, 2, 3].map(() => post(nobody(), path, { password: 'otter punt sluice' }))
		);
		expect(tries.map((t) => t.status).sort()).toEqual([303, 404, 404]);
		expect((await nobody().fetch(path)).status).toBe(404);
		const senna = await Client.signIn(app.address, 'senna', 'otter punt sluice');
		expect((await senna.fetch('/')).status).toBe(200);
	});

	it('a new one ends the one before it, and using it ends every session', async () => {
		const first = await invited('piet');
		await post(nobody(), first, { password: 'otter punt sluice' });
		const piet = await Client.signIn(app.address, 'piet', 'otter punt sluice');
		await post(nobody(), '/forgotten', { called: 'piet@alderfen.example' });
		const second = await linkTo('piet', 2);
		await post(nobody(), '/forgotten', { called: 'piet' });
		await linkTo('piet', 3);
		const third = await until(async () => {
			const path = await linkTo('piet', 3);
			return path !== second && path;
		});
		expect((await nobody().fetch(second)).status).toBe(404);
		expect((await post(nobody(), third, { password: 'reedbed heron oar' })).status).toBe(303);
		expect((await piet.fetch('/')).headers.get('location')).toMatch(/^\/sign-in/);
		expect((await Client.signIn(app.address, 'piet', 'reedbed heron oar')).cookie).not.toBe('');
	});

	it('for nobody is answered like for somebody, and no letter goes out', async () => {
		const before = (await mail.letters()).length;
		const [known, unknown] = [
			await post(nobody(), '/forgotten', { called: 'ilka' }),
			await post(nobody(), '/forgotten', { called: 'nobody.of.that.name' })
		];
		const said = async (r: Response) => (await r.text()).replace(/nonce-\S+|"\w{6,}"/g, '').length;
		expect([known.status, await said(known)]).toEqual([unknown.status, await said(unknown)]);
		// Ilka has no address here.
		await new Promise((done) => setTimeout(done, 1500));
		expect((await mail.letters()).length).toBe(before);
	});

	it('of somebody who is archived is none', async () => {
		await invited('mirthe');
		const html = await (await wessel.fetch('/school/people?find=mirthe')).text();
		const person = /name="person" value="([0-9a-f-]+)"/.exec(html)![1]!;
		const path = await linkTo('mirthe', 1);
		await post(wessel, '/school/people?/archive', { person });
		expect((await nobody().fetch(path)).status).toBe(404);
		expect((await post(nobody(), path, { password: 'otter punt sluice' })).status).toBe(404);
	});

	it('guessed is refused, then slowed', async () => {
		const statuses = [];
		for (let i = 0; i < 25; i++) statuses.push((await nobody().fetch(`/come-in/AAAA-BBBB-${i}`)).status);
		expect(statuses[0]).toBe(404);
		expect(statuses.at(-1)).toBe(429);
	});
});

describe('a password', () => {
	it('is changed by whoever knows it; a wrong one is not taken', async () => {
		const tobias = await Client.signIn(app.address, 'tobias');
		const other = await Client.signIn(app.address, 'tobias');
		expect((await post(tobias, '/me?/password', { now: 'wrong', next: 'otter punt sluice' })).status).toBe(
			400
		);
		expect((await post(tobias, '/me?/password', { now: 'sandbank', next: 'tobiastobias' })).status).toBe(400);
		expect((await post(tobias, '/me?/password', { now: 'sandbank', next: 'otter punt sluice' })).status).toBe(
			200
		);
		expect((await tobias.fetch('/me')).status).toBe(200);
		expect((await other.fetch('/me')).status).toBe(303);
	});
});

describe('a course', () => {
	it('changed by two at once is changed by one, and the other is told', async () => {
		const change = (title: string) =>
			post(wessel, `/courses/${course}?/change`, { code: 'HY-2', title, version: '1', timeZone: 'UTC' });
		const answers = await Promise.all([change('Streams'), change('Brooks')]);
		expect(answers.map((a) => a.status).sort()).toEqual([200, 409]);
	});

	it('that is archived stands on no desk, and comes back as it was', async () => {
		const ilka = await Client.signIn(app.address, 'ilka');
		const desk = async () => (await (await ilka.fetch('/')).text()).includes('Worksheet 9');
		expect(await desk()).toBe(true);
		await post(wessel, `/courses/${course}?/archive`, {});
		expect(await desk()).toBe(false);
		await post(wessel, `/courses/${course}?/archive`, {});
		expect(await desk()).toBe(true);
	});

	it('takes no list of a whole school, and says where that goes', async () => {
		const rows = Array.from({ length: 50_000 }, (_, i) => `B${i},Family${i},Given${i}`);
		const answer = await wessel.fetch(`/api/courses/${course}/roster`, {
			method: 'POST',
			headers: { 'content-type': 'application/octet-stream' },
			body: ['Number,Surname,Given name', ...rows].join('\n')
		});
		expect(answer.status).toBe(422);
		expect(((await answer.json()) as { message: string }).message).toContain(
			'This list has 50000 people; a course takes at most 2000.'
		);
	});
});
