import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startMail, type RunningMail } from '../../standins/mail/mail';
import type { BoardView } from '../../src/lib/core/board/board';
import { openServices } from '../../src/lib/server/services/services';
import type { PacketView } from '../../src/lib/server/view/packetView';
import { Client, freePort, seed, startApp, until, type RunningApp } from '../support/app';
import { jpeg, testPage } from '../support/pictures';

const data = mkdtempSync(join(tmpdir(), 'membrana-board-'));
const ADDRESS = 'ilka@alderfen.example';
let app: RunningApp;
let mail: RunningMail;
let maren: Client;
let ilka: Client;
let assignment: string;
let packet: string;

beforeAll(async () => {
	({ assignment } = await seed(data));
	const services = await openServices({ MEMBRANA_DATA: data });
	await services.db.query(`update person set email = $1 where login = 'ilka'`, [ADDRESS]);
	await services.db.query(
		`update assignment set rule_sheet = rule_sheet || '{"due":"2031-03-14T18:00:00+01:00"}' where id = $1`,
		[assignment]
	);
	await services.close();
	mail = await startMail({ folder: mkdtempSync(join(tmpdir(), 'membrana-letters-')), port: 0, pagePort: 0 });
	app = await startApp(data, await freePort(), undefined, 'off', { MEMBRANA_SMTP: mail.server });
	maren = await Client.signIn(app.address, 'maren');
	ilka = await Client.signIn(app.address, 'ilka');
	packet = await ilka.openPacket(assignment);
	const bytes = await jpeg(testPage(4).picture, 85);
	const path = await ilka.beginUpload(packet, 'one.jpg', bytes.length);
	await ilka.continueUpload(path, bytes, 0);
});
afterAll(async () => {
	await app.kill('SIGTERM');
	await mail.close();
});

const board = () => maren.json<BoardView>(`/api/assignments/${assignment}/board`);
const row = async (given = 'ilka') => (await board()).students.find((s) => s.given === given)!;
const silence = () =>
	new Promise<{ value: undefined; done: true }>((end) =>
		setTimeout(() => end({ value: undefined, done: true }), 30_000).unref()
	);
const view = (client = ilka) => client.json<PacketView>(`/api/packets/${packet}`);
const giveBack = async (body: object) =>
	maren.send(`/api/packets/${packet}/returns`, { version: (await view()).version, ...body });
const lettersTo = async (about: string) =>
	(await mail.letters()).filter((l) => l.to.includes(ADDRESS) && l.subject.startsWith(about));

describe('the board', () => {
	it('shows every student, and what is known of each packet once it is known', async () => {
		const checked = await until(async () => {
			const now = await row();
			return now.fresh ? now : null;
		});
		expect(checked).toMatchObject({ pages: 1, hasMail: true, handedInAt: null, moreTime: null });
		expect(checked.summary!.cells.map((c) => c.question)).toEqual(['1']);
		expect(checked.summary!.pages).toHaveLength(1);
		expect(await row('tobias')).toMatchObject({ packetId: null, pages: 0, summary: null, fresh: false });
	});

	it('is a table for who wants one', async () => {
		const response = await maren.fetch(`/api/assignments/${assignment}/board?as=csv`);
		expect(response.headers.get('content-type')).toContain('text/csv');
		const [titles, first] = (await response.text()).split('\n');
		expect(titles).toMatch(/^Family,Given,State,Pages,.*Question 1,Findings$/);
		expect(first).toMatch(/^Test,ilka,/);
	});

	it('tells its teacher when a packet of the class changes', async () => {
		const stop = new AbortController();
		const response = await maren.fetch(`/api/assignments/${assignment}/board/events`, {
			signal: stop.signal
		});
		const reader = response.body!.getReader();
		const { version } = await view();
		await ilka.send(`/api/packets/${packet}/changes`, {
			kind: 'edit',
			base: version,
			change: { kind: 'setFileName', name: 'mine' }
		});
		// Who looks again only when told to learns what the rules say of it now.
		const soonEnough = silence();
		let told = await row();
		while (told.version === version || !told.fresh) {
			const { value, done } = await Promise.race([reader.read(), soonEnough]);
			if (done) break;
			if (new TextDecoder().decode(value).includes('event: changed')) told = await row();
		}
		stop.abort();
		expect(told).toMatchObject({ version: version + 1, fresh: true });
	});
});

describe('a return', () => {
	it('reaches its student with its reasons, on the desk, in the packet and by mail', async () => {
		const page = (await view()).packet.strip[0]!;
		const done = await giveBack({ reasons: [{ text: 'Write the units.', page }], words: 'Nearly there.' });
		expect(await done.json()).toEqual({ written: true });
		const [given] = (await view()).returns;
		expect(given).toMatchObject({ stands: true, words: 'Nearly there.', by: 'maren Test' });
		expect(given!.reasons).toEqual([{ text: 'Write the units.', page }]);
		expect(await (await ilka.fetch('/')).text()).toContain('Given back');
		expect((await row()).returnedAt).not.toBeNull();
		const [letter] = await until(async () => {
			const all = await lettersTo('Given back');
			return all.length > 0 ? all : null;
		});
		expect(letter!.text).toContain('Page 1: Write the units.');
		expect(letter!.text).toContain(`/packets/${packet}/gather`);
		const { usual } = await maren.json<{ usual: string[] }>(`/api/packets/${packet}/returns`);
		expect(usual).toEqual(['Write the units.']);
	});

	it('says what was changed since, and can be taken back once', async () => {
		const before = await view();
		await ilka.send(`/api/packets/${packet}/changes`, {
			kind: 'edit',
			base: before.version,
			change: { kind: 'setFileName', name: 'mended' }
		});
		const { id } = before.returns[0]!;
		const changes = await ilka.json<Record<string, string[]>>(`/api/packets/${packet}/versions`);
		expect(changes[id]).toEqual(['the file has another name']);
		const remove = (client: Client) =>
			client.fetch(`/api/packets/${packet}/returns/${id}`, { method: 'DELETE' });
		expect((await remove(ilka)).status).toBe(404);
		expect((await remove(maren)).status).toBe(200);
		expect((await remove(maren)).status).toBe(409);
		expect((await view()).returns[0]).toMatchObject({ stands: false });
		expect((await row()).returnedAt).toBeNull();
	});

	it('needs a reason, a page that is there, and a teacher', async () => {
		expect((await giveBack({ reasons: [] })).status).toBe(422);
		expect((await giveBack({ reasons: [{ text: 'x', page: 'nowhere' }] })).status).toBe(422);
		expect((await giveBack({ reasons: [{ text: 'x'.repeat(401) }] })).status).toBe(400);
		const own = { version: 0, reasons: [{ text: 'mine' }] };
		expect((await ilka.send(`/api/packets/${packet}/returns`, own)).status).toBe(404);
		// A teacher's own packet is nobody's to give back.
		const hers = await maren.openPacket(assignment);
		expect((await maren.send(`/api/packets/${hers}/returns`, own)).status).toBe(404);
	});
});

describe('more time and reminders', () => {
	const time = async (due: string | null, who = 'ilka') =>
		maren.send(`/api/assignments/${assignment}/time`, { people: [(await row(who)).id], due });

	it('is later than for everybody, and holds for whom it was given', async () => {
		expect((await time('2031-03-14T17:00:00+01:00')).status).toBe(422);
		expect((await time('soon')).status).toBe(400);
		expect((await time('2031-03-16T18:00:00+01:00')).status).toBe(200);
		expect((await view()).moreTime).toBe('2031-03-16T18:00:00+01:00');
		expect(await (await ilka.fetch('/')).text()).toContain('Sun 16 Mar 18:00');
		expect((await row('tobias')).moreTime).toBeNull();
		expect((await time(null)).status).toBe(200);
		expect((await view()).moreTime).toBeNull();
	});

	it('reach those with an address, and say how far they are', async () => {
		const everybody = (await board()).students.map((s) => s.id);
		const sent = await maren.send(`/api/assignments/${assignment}/reminders`, {
			people: everybody,
			words: 'Until Friday, please.'
		});
		expect(await sent.json()).toEqual({ written: 1, without: 1 });
		const [letter] = await until(async () => {
			const all = await lettersTo('Still to be handed in');
			return all.length > 0 ? all : null;
		});
		expect(letter!.text).toContain('You have brought in 1 page.');
		expect(letter!.text).toContain('Until Friday, please.');
	});

	it('are for one’s own class: with a stranger among them nobody is reached', async () => {
		const { id } = await row();
		const stranger = '00000000-0000-4000-8000-000000000000';
		for (const path of ['time', 'reminders']) {
			const asked = await maren.send(`/api/assignments/${assignment}/${path}`, {
				people: [id, stranger],
				due: null
			});
			expect([path, asked.status]).toEqual([path, path === 'time' ? 404 : 400]);
		}
		const words = { people: [id, stranger], words: '' };
		expect((await maren.send(`/api/assignments/${assignment}/reminders`, words)).status).toBe(404);
	});
});
