import { spawnSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PacketView } from '../../src/lib/server/view/packetView';
import { Client, freePort, seed, SHEET, startApp, type RunningApp } from '../support/app';
import { allRoutes } from '../support/routes';

const data = mkdtempSync(join(tmpdir(), 'membrana-access-'));
let app: RunningApp;
let assignment: string;
let course: string;
let ilka: Client;
let packet: string;
let stack: string;
let bundle: string;

beforeAll(async () => {
	({ assignment, course } = await seed(data));
	app = await startApp(data, await freePort());
	ilka = await Client.signIn(app.address, 'ilka');
	packet = await ilka.openPacket(assignment);
	const maren = await Client.signIn(app.address, 'maren');
	stack = await maren.openStack(assignment);
	const asked = await maren.send(`/api/assignments/${assignment}/bundles`, { question: '1' });
	[{ id: bundle }] = (await asked.json()) as [{ id: string }];
});
afterAll(() => app.kill('SIGTERM'));

/** A request to a route that is about a packet or an assignment of the first student. */
interface Way {
	readonly path: string;
	readonly body?: unknown;
	readonly form?: Readonly<Record<string, string>>;
}

/** Every route that names something of somebody's, tried by everyone below, by its exact name. */
const ways = (): Record<string, Way> => ({
	'GET /packets/[id]': { path: `/packets/${packet}/gather` },
	'GET /api/packets/[id]': { path: `/api/packets/${packet}` },
	'GET /api/packets/[id]/log': { path: `/api/packets/${packet}/log` },
	'GET /api/packets/[id]/events': { path: `/api/packets/${packet}/events` },
	'GET /api/packets/[id]/news': { path: `/api/packets/${packet}/news?version=0&news=0&sheet=0` },
	'GET /api/packets/[id]/pictures/[key]/[kind]': { path: `/api/packets/${packet}/pictures/x/view` },
	'GET /api/packets/[id]/pages/[page]/pictures': { path: `/api/packets/${packet}/pages/x/pictures` },
	'GET /api/packets/[id]/pages/[page]/fields': { path: `/api/packets/${packet}/pages/x/fields` },
	'GET /api/packets/[id]/files/[file]': { path: `/api/packets/${packet}/files/${packet}` },
	'POST /api/packets/[id]/changes': {
		path: `/api/packets/${packet}/changes`,
		body: { kind: 'undo', base: 0 }
	},
	'POST /api/packets/[id]/file': { path: `/api/packets/${packet}/file`, body: { version: 0, type: 'pdf' } },
	'POST /api/packets/[id]/deliveries': {
		path: `/api/packets/${packet}/deliveries`,
		body: { file: packet, key: 'x'.repeat(20) }
	},
	'GET /api/packets/[id]/files/[file]/pages/[page]': {
		path: `/api/packets/${packet}/files/${packet}/pages/1`
	},
	'GET /api/packets/[id]/files/[file]/manifest': { path: `/api/packets/${packet}/files/${packet}/manifest` },
	'POST /api/packets/[id]/files/[file]': {
		path: `/api/packets/${packet}/files/${packet}`,
		body: { password: 'reeds' }
	},
	'GET /api/packets/[id]/destinations': { path: `/api/packets/${packet}/destinations` },
	'GET /api/packets/[id]/versions': { path: `/api/packets/${packet}/versions` },
	'DELETE /api/packets/[id]/deliveries/[delivery]': { path: `/api/packets/${packet}/deliveries/${packet}` },
	'POST /api/packets/[id]/deliveries/[delivery]': {
		path: `/api/packets/${packet}/deliveries/${packet}`,
		body: {}
	},
	'GET /api/packets/[id]/deliveries/[delivery]/receipt': {
		path: `/api/packets/${packet}/deliveries/${packet}/receipt`
	},
	'GET /api/packets/[id]/deliveries/[delivery]/proof': {
		path: `/api/packets/${packet}/deliveries/${packet}/proof`
	},
	'GET /packets/[id]/receipts/[delivery]': { path: `/packets/${packet}/receipts/${packet}` },
	'POST /api/packets/[id]/troubles/[trouble]': {
		path: `/api/packets/${packet}/troubles/${packet}`,
		body: {}
	},
	'POST /api/packets/[id]/proposed': { path: `/api/packets/${packet}/proposed`, body: { version: 0 } },
	'GET /api/packets/[id]/returns': { path: `/api/packets/${packet}/returns` },
	'POST /api/packets/[id]/returns': {
		path: `/api/packets/${packet}/returns`,
		body: { version: 0, reasons: [], words: 'Again.' }
	},
	'DELETE /api/packets/[id]/returns/[return]': { path: `/api/packets/${packet}/returns/${packet}` },
	'POST /api/packets/[id]/phone-link': { path: `/api/packets/${packet}/phone-link`, body: {} },
	'DELETE /api/packets/[id]/phone-link': { path: `/api/packets/${packet}/phone-link` },
	'PUT /api/assignments/[id]': {
		path: `/api/assignments/${assignment}`,
		body: { version: 1, ruleSheet: SHEET }
	},
	'POST /api/assignments': { path: '/api/assignments', body: { course, ruleSheet: SHEET } },
	'GET /assignments/[id]': { path: `/assignments/${assignment}` },
	'GET /assignments/[id]/bundles': { path: `/assignments/${assignment}/bundles` },
	'GET /api/assignments/[id]/bundles': { path: `/api/assignments/${assignment}/bundles` },
	'POST /api/assignments/[id]/bundles': {
		path: `/api/assignments/${assignment}/bundles`,
		body: { question: '1' }
	},
	'GET /api/assignments/[id]/covers': { path: `/api/assignments/${assignment}/covers` },
	'GET /api/assignments/[id]/codes': { path: `/api/assignments/${assignment}/codes` },
	'GET /api/bundles/[id]/files/[file]': { path: `/api/bundles/${bundle}/files/0` },
	'GET /api/bundles/[id]/look': { path: `/api/bundles/${bundle}/look` },
	'POST /api/bundles/[id]/look': {
		path: `/api/bundles/${bundle}/look`,
		body: { packet, page: 'x', key: 'x', boxes: [] }
	},
	'GET /api/assignments/[id]/board': { path: `/api/assignments/${assignment}/board` },
	'GET /api/assignments/[id]/board/events': { path: `/api/assignments/${assignment}/board/events` },
	'POST /api/assignments/[id]/time': {
		path: `/api/assignments/${assignment}/time`,
		body: { people: [packet], due: null }
	},
	'POST /api/assignments/[id]/reminders': {
		path: `/api/assignments/${assignment}/reminders`,
		body: { people: [packet] }
	},
	'GET /assignments/[id]/class': { path: `/assignments/${assignment}/class` },
	'POST /assignments/[id]/stack': { path: `/assignments/${assignment}/stack`, form: {} },
	'GET /stacks/[id]': { path: `/stacks/${stack}` },
	'POST /api/stacks/[id]/packets': { path: `/api/stacks/${stack}/packets`, body: { first: ['x'] } },
	'GET /courses/[id]': { path: `/courses/${course}` },
	'POST /courses/[id]': { path: `/courses/${course}?/remove`, form: { person: packet } },
	'GET /api/courses/[id]/roster': { path: `/api/courses/${course}/roster` },
	'POST /api/courses/[id]/roster': { path: `/api/courses/${course}/roster`, body: {} },
	'POST /api/courses/[id]/slips': { path: `/api/courses/${course}/slips`, body: { people: [packet] } },
	'PUT /api/courses/[id]/defaults': { path: `/api/courses/${course}/defaults`, body: { assignment } },
	...forAdministrators()
});

/** What is an administrator's alone. */
const forAdministrators = (): Record<string, Way> => ({
	'GET /school': { path: '/school' },
	'POST /school': { path: '/school?/make', form: { code: 'X-1', title: 'Xylology' } },
	'GET /school/people': { path: '/school/people' },
	'POST /school/people': { path: '/school/people?/archive', form: { person: packet } },
	'GET /school/settings': { path: '/school/settings' },
	'POST /school/settings': { path: '/school/settings?/save', form: { portal: 'http://127.0.0.1:9' } },
	'GET /school/deeds': { path: '/school/deeds' },
	'GET /api/school/roster': { path: '/api/school/roster' },
	'POST /api/school/roster': { path: '/api/school/roster', body: {} }
});

/** Routes that name nothing of anybody's, or that a test of their own tries. */
const ELSEWHERE: Readonly<Record<string, string>> = {
	'GET /first/[token]': 'firstStart.test.ts',
	'POST /first/[token]': 'firstStart.test.ts',
	'GET /come-in': 'asks for a code',
	'GET /come-in/[code]': 'comeIn.test.ts',
	'POST /come-in/[code]': 'comeIn.test.ts',
	'GET /forgotten': 'asks for a name',
	'POST /forgotten': 'comeIn.test.ts',
	'GET /me': 'one’s own sessions: what stands there comes from who is signed in',
	'POST /me': 'comeIn.test.ts',
	'GET /own': 'only on one’s own, mine.test.ts; not in a school, below',
	'POST /own': 'only on one’s own, mine.test.ts; not in a school, below',
	'POST /api/papers': 'a student reads no papers in, below; mine.test.ts',
	'GET /api/papers/[id]/pages/[page]': 'mine.test.ts',
	'GET /': 'one’s own desk: what stands on it comes from who is signed in',
	'GET /sign-in': 'open',
	'POST /sign-in': 'safety, below, and hostile.test.ts',
	'GET /sign-in/provider': 'provider.test.ts',
	'GET /sign-in/provider/back': 'provider.test.ts',
	'POST /sign-out': 'one’s own session',
	'GET /assignments/new': 'a student writes no rule sheet, below',
	'POST /assignments/[id]/packet': 'a packet is opened for oneself, below',
	'GET /api/demo-pictures': 'made up, nobody’s',
	'GET /api/demo-pictures/[name]': 'made up, nobody’s',
	'POST /api/proof': 'anybody who holds a proof may have it checked',
	'GET /phone/[token]': 'phone.test.ts',
	'GET /api/phone/[token]': 'phone.test.ts',
	'GET /api/phone/[token]/events': 'phone.test.ts',
	'POST /api/uploads/[...path]': 'uploadAccess.test.ts',
	'PATCH /api/uploads/[...path]': 'uploadAccess.test.ts',
	'HEAD /api/uploads/[...path]': 'uploadAccess.test.ts',
	'DELETE /api/uploads/[...path]': 'uploadAccess.test.ts',
	'OPTIONS /api/uploads/[...path]': 'says what the protocol offers, to everybody the same'
};

const ask = (client: Client, route: string, { path, body, form }: Way) => {
	const method = route.split(' ')[0]!;
	if (form) return client.fetch(path, { method, body: new URLSearchParams(form) });
	return body ? client.send(path, body, method) : client.fetch(path, { method });
};

/** Ids of people by their sign-in names, off the page of people. */
async function idsOf(administrator: Client): Promise<Map<string, string>> {
	const html = await (await administrator.fetch('/school/people')).text();
	const rows = html.matchAll(/<tr[^>]*>[\s\S]*?<\/tr>/g);
	return new Map(
		[...rows].flatMap(([row]) => {
			const login = /<td[^>]*>([a-z]+)(?:<|\s)/.exec(row.slice(row.indexOf('</td>')))?.[1];
			const id = /name="person" value="([0-9a-f-]+)"/.exec(row)?.[1];
			return login && id ? [[login, id] as const] : [];
		})
	);
}

describe('who may see what', () => {
	it('every route is named here, and nothing is named that is no route', () => {
		const named = [...Object.keys(ways()), ...Object.keys(ELSEWHERE)].sort();
		// The whole application's data, which says who is signed in and nothing else.
		expect(allRoutes().filter((route) => route !== 'GET /')).toEqual(named.filter((r) => r !== 'GET /'));
	});

	it('nobody signed in: nothing', async () => {
		const nobody = new Client(app.address, '');
		for (const [route, way] of Object.entries(ways())) {
			const response = await ask(nobody, route, way);
			const isPage = !way.path.startsWith('/api/');
			expect([route, response.status]).toEqual([route, isPage ? 303 : 401]);
			if (isPage) expect(response.headers.get('location')).toMatch(/^\/sign-in/);
		}
	});

	it('another student, and a teacher of another course: as if it were not there', async () => {
		for (const login of ['tobias', 'other']) {
			const stranger = await Client.signIn(app.address, login);
			for (const [route, way] of Object.entries(ways())) {
				const response = await ask(stranger, route, way);
				expect([login, route, response.status]).toEqual([login, route, 404]);
			}
		}
	});

	it('a class’s stack is its teachers’ only, by whatever way it is asked for', async () => {
		const ways = [`/stacks/${stack}`, `/packets/${stack}/gather`, `/api/packets/${stack}`];
		for (const path of ways) expect([path, (await ilka.fetch(path)).status]).toEqual([path, 404]);
		await expect(ilka.beginUpload(stack, 'mine.jpg', 10)).rejects.toThrow('404');
		const maren = await Client.signIn(app.address, 'maren');
		expect((await maren.fetch(`/stacks/${stack}`)).status).toBe(200);
		// It is no packet: nothing hands it in, and there is no stack where a packet's id is given.
		const handIn = { file: packet, key: 'x'.repeat(20) };
		expect((await maren.send(`/api/packets/${stack}/deliveries`, handIn)).status).toBe(422);
		expect((await maren.fetch(`/stacks/${packet}`)).status).toBe(404);
	});

	it('the teacher of a course runs it, and is no administrator', async () => {
		const maren = await Client.signIn(app.address, 'maren');
		expect((await maren.fetch(`/courses/${course}`)).status).toBe(200);
		expect(await (await maren.fetch(`/api/courses/${course}/roster`)).text()).toContain('Test,ilka');
		for (const [route, way] of Object.entries(forAdministrators())) {
			expect([route, (await ask(maren, route, way)).status]).toEqual([route, 404]);
		}
		const post = (action: string, form: Record<string, string>) =>
			maren.fetch(`/courses/${course}?/${action}`, { method: 'POST', body: new URLSearchParams(form) });
		expect((await maren.send(`/api/courses/${course}/defaults`, { assignment }, 'PUT')).status).toBe(200);
		expect(await (await maren.fetch('/assignments/new')).text()).toContain('max:9');
		const fields = { code: 'HY-9', title: 'Mine', version: '1' };
		expect((await post('change', fields)).status).toBe(404);
		expect((await post('archive', {})).status).toBe(404);
		expect((await post('add', { called: 'tobias', role: 'teacher' })).status).toBe(404);
	});

	it('a teacher gives a way in to their own students, and to nobody who runs something', async () => {
		const [maren, wessel] = [
			await Client.signIn(app.address, 'maren'),
			await Client.signIn(app.address, 'wessel')
		];
		const people = await idsOf(wessel);
		const slip = (id: string) => maren.send(`/api/courses/${course}/slips`, { people: [id] });
		expect((await slip(people.get('ilka')!)).headers.get('content-type')).toBe('application/pdf');
		// Of another course, of no course, and a teacher like herself.
		for (const login of ['other', 'wessel', 'maren'])
			expect((await slip(people.get(login)!)).status).toBe(404);
		// A student who is an administrator as well.
		const done = await wessel.fetch(`/courses/${course}?/add`, {
			method: 'POST',
			body: new URLSearchParams({ called: 'wessel', role: 'student' })
		});
		expect(done.status).toBe(200);
		expect((await slip(people.get('wessel')!)).status).toBe(404);
		await wessel.fetch(`/courses/${course}?/remove`, {
			method: 'POST',
			body: new URLSearchParams({ person: people.get('wessel')! })
		});
	});

	it('an administrator runs courses and people, and sees no packets', async () => {
		const wessel = await Client.signIn(app.address, 'wessel');
		const open = ['/school', '/school/people', '/school/settings', '/school/deeds', `/courses/${course}`];
		for (const path of open) expect([path, (await wessel.fetch(path)).status]).toEqual([path, 200]);
		const packets = Object.entries(ways()).filter(([route]) => /packets|assignments|defaults/.test(route));
		for (const [route, way] of packets) {
			expect([route, (await ask(wessel, route, way)).status]).toEqual([route, 404]);
		}
	});

	it('what belongs to another packet is not found under one’s own', async () => {
		const tobias = await Client.signIn(app.address, 'tobias');
		const own = await tobias.openPacket(assignment);
		const foreign = [
			`files/${packet}`,
			`deliveries/${packet}/receipt`,
			`deliveries/${packet}/proof`,
			`pictures/${packet}/view`
		];
		for (const path of foreign) expect((await tobias.fetch(`/api/packets/${own}/${path}`)).status).toBe(404);
		expect((await tobias.send(`/api/packets/${own}/troubles/${packet}`, {})).status).toBe(404);
	});

	it('a packet is opened for oneself only; a student who names another gets their own', async () => {
		const tobias = await Client.signIn(app.address, 'tobias');
		const own = await tobias.openPacket(assignment);
		const { owner } = await ilka.json<PacketView>(`/api/packets/${packet}`);
		expect(owner.given).toBe('ilka');
		const asked = await tobias.fetch(`/assignments/${assignment}/packet`, {
			method: 'POST',
			body: new URLSearchParams({ student: packet })
		});
		expect(asked.headers.get('location')).toBe(`/packets/${own}/gather`);
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
		expect((await ilka.send('/api/papers', {})).status).toBe(404);
	});

	it('in a school nobody has it for oneself', async () => {
		for (const client of [ilka, await Client.signIn(app.address, 'wessel')]) {
			expect((await client.fetch('/own')).status).toBe(404);
			const named = await client.fetch('/own?/name', {
				method: 'POST',
				body: new URLSearchParams({ given: 'X' })
			});
			expect(named.status).toBe(404);
		}
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
			timeout: 120_000,
			env: { ...process.env, MEMBRANA_DATA: data, HOST: '127.0.0.1', PORT: String(await freePort()) }
		});
		expect(second.status).toBe(1);
		expect(second.stderr).toContain('Another Membrana is already running');
		expect((await ilka.fetch(`/api/packets/${packet}`)).status).toBe(200);
	});
});
