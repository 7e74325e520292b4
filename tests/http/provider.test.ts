import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startProvider, type RunningProvider } from '../../standins/provider/provider';
import { Client, freePort, seed, startApp, type RunningApp } from '../support/app';

const data = mkdtempSync(join(tmpdir(), 'membrana-provider-'));
let app: RunningApp;
let provider: RunningProvider;

beforeAll(async () => {
	const { course } = await seed(data);
	const people = ['AF-1', 'AF-404'].map((sub) => ({ sub, name: `Person ${sub}` }));
	provider = await startProvider({ port: 0, client: 'membrana', people });
	app = await startApp(data, await freePort(), undefined, 'off', {
		MEMBRANA_OIDC_ISSUER: provider.issuer,
		MEMBRANA_OIDC_CLIENT: 'membrana'
	});
	const wessel = await Client.signIn(app.address, 'wessel');
	const list = 'Number,Family name,Given name\nAF-1,Test,Yara\n';
	const bring = (query: string) =>
		wessel.fetch(`/api/courses/${course}/roster${query}`, {
			method: 'POST',
			headers: { 'content-type': 'application/octet-stream' },
			body: list
		});
	const { seen } = (await (await bring('')).json()) as { seen: string };
	expect((await bring(`?seen=${seen}`)).status).toBe(200);
});
afterAll(async () => {
	await app.kill('SIGTERM');
	await provider.close();
});

/** Goes the whole way of a browser; `change` has the answer's address tampered with. */
async function signInAs(sub: string, change: (back: URL) => void = () => {}) {
	const nobody = new Client(app.address, '');
	const asked = await nobody.fetch('/sign-in/provider?next=/me');
	if (asked.status !== 303) return { status: asked.status, text: await asked.text(), asked };
	const question = asked.headers.get('set-cookie')!.split(';')[0]!;
	const authorize = new URL(asked.headers.get('location')!);
	authorize.searchParams.set('as', sub);
	const sent = await fetch(authorize, { redirect: 'manual' });
	const back = new URL(sent.headers.get('location')!);
	change(back);
	const answer = await new Client(app.address, question).fetch(back.pathname + back.search);
	return { status: answer.status, text: await answer.text(), answer, back, question };
}

describe('signing in through the school’s identity provider', () => {
	it('lets in whom the roster knows by that number, and leads where they wanted to go', async () => {
		const { status, answer, back, question } = await signInAs('AF-1');
		expect([status, answer!.headers.get('location')]).toEqual([303, '/me']);
		const cookie = answer!.headers
			.getSetCookie()
			.find((c) => c.startsWith('membrana-session'))!
			.split(';')[0]!;
		expect(await (await new Client(app.address, cookie).fetch('/me')).text()).toContain('Yara Test');
		// The same answer a second time.
		const again = await new Client(app.address, question!).fetch(back!.pathname + back!.search);
		expect(again.status).toBe(403);
	});

	it('lets nobody in whom the roster does not know, and says what to do', async () => {
		const { status, text } = await signInAs('AF-404');
		expect(status).toBe(403);
		expect(text).toContain('AF-404');
		expect(text).toContain('Ask your teacher to look at the roster');
	});

	it('does not believe an answer that fits no question', async () => {
		const nobody = new Client(app.address, '');
		expect((await nobody.fetch('/sign-in/provider/back?code=x&state=y')).status).toBe(400);
		expect((await signInAs('AF-1', (back) => back.searchParams.set('state', 'other'))).status).toBe(403);
		expect((await signInAs('AF-1', (back) => back.searchParams.set('code', 'other'))).status).toBe(403);
		provider.misbehave('nonce');
		const lied = await signInAs('AF-1');
		expect([lied.status, lied.text]).toEqual([403, expect.stringContaining('does not fit the question')]);
		provider.misbehave('refuse');
		expect((await signInAs('AF-1')).text).toContain('let nobody in');
		provider.misbehave('not');
	});

	it('that is down says so, and the password still works', async () => {
		provider.misbehave('down');
		const { status, text } = await signInAs('AF-1');
		expect([status, text]).toEqual([503, expect.stringContaining('does not answer')]);
		expect((await Client.signIn(app.address, 'ilka')).cookie).not.toBe('');
		provider.misbehave('not');
	});

	it('never leads to another site', async () => {
		const asked = await new Client(app.address, '').fetch('/sign-in/provider?next=//evil.example');
		const kept = decodeURIComponent(asked.headers.get('set-cookie')!);
		expect(kept).toContain('"next":"/"');
	});
});
