import { request } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { isOwnName } from '../../cli/ownNames';
import { startOnEmptyFolder, type RunningApp } from '../support/start';

// The address at which people open Membrana: this machine's own, however it is written, or the one that was set.

let own: RunningApp;
let set: RunningApp;
beforeAll(async () => {
	[own, set] = await Promise.all([
		startOnEmptyFolder('serve'),
		startOnEmptyFolder('serve', { ORIGIN: 'https://school.example' })
	]);
});
afterAll(async () => {
	await Promise.all([own?.kill('SIGTERM'), set?.kill('SIGTERM')]);
});

interface Answer {
	readonly status: number;
	readonly text: string;
}
/** As a browser asks that has opened a page at this origin; `post` sends what a form does. */
function ask(app: RunningApp, host: string, post?: { origin: string; script?: boolean }): Promise<Answer> {
	const { port } = new URL(app.address);
	return new Promise((done, failed) => {
		const headers = {
			host,
			...(post ? { origin: post.origin, 'content-type': 'application/x-www-form-urlencoded' } : {}),
			...(post?.script ? { 'x-sveltekit-action': 'true', accept: 'application/json' } : {})
		};
		const path = '/first/no-such-code';
		const asked = request({ port, path, method: post ? 'POST' : 'GET', headers }, (response) => {
			let text = '';
			response.on('data', (chunk: Buffer) => (text += chunk.toString()));
			response.on('end', () => done({ status: response.statusCode!, text }));
		});
		asked.on('error', failed);
		asked.end(post ? 'name=x' : undefined);
	});
}
const portOf = (app: RunningApp) => new URL(app.address).port;

describe('the address', () => {
	it('may be any that means this machine, and forms work under each', async () => {
		for (const name of ['localhost', '127.0.0.1']) {
			const host = `${name}:${portOf(own)}`;
			expect((await ask(own, host)).status).not.toBe(421);
			const sent = await ask(own, host, { origin: `http://${host}` });
			expect([403, 421]).not.toContain(sent.status);
		}
	});

	it('is none that somebody else made lead here', async () => {
		const { status, text } = await ask(own, 'elsewhere.example');
		expect(status).toBe(421);
		expect(text).toContain('ORIGIN');
	});

	it('is the one that was set, whatever a proxy passes on, and another page is told which', async () => {
		const host = `127.0.0.1:${portOf(set)}`;
		expect((await ask(set, host, { origin: 'https://school.example' })).status).not.toBe(403);
		const other = await ask(set, host, { origin: `http://${host}` });
		expect(other.status).toBe(403);
		expect(other.text).toContain('https://school.example');
		// What a form's script is told it can show.
		const script = await ask(set, host, { origin: `http://${host}`, script: true });
		expect(script.status).toBe(403);
		expect(JSON.parse(script.text)).toMatchObject({
			type: 'error',
			error: { message: expect.stringContaining('https://school.example') as string }
		});
	});

	it('does not let a page of another site send forms, nor one that does not say whose it is', async () => {
		const host = `localhost:${portOf(own)}`;
		expect((await ask(own, host, { origin: 'http://elsewhere.example' })).status).toBe(403);
		expect((await ask(own, host, { origin: 'null' })).status).toBe(403);
		const { port } = new URL(own.address);
		const silent = await fetch(`http://127.0.0.1:${port}/first/no-such-code`, {
			method: 'POST',
			body: new URLSearchParams({ name: 'x' })
		});
		expect(silent.status).toBe(403);
	});
});

describe('names of this machine', () => {
	it('are loopback, and on the network its addresses and its name', () => {
		expect(isOwnName('localhost:4173', '127.0.0.1')).toBe(true);
		expect(isOwnName('[::1]:4173', '::1')).toBe(true);
		expect(isOwnName('school.example', '127.0.0.1')).toBe(false);
		expect(isOwnName('10.1.2.3:4173', '10.1.2.3')).toBe(true);
		expect(isOwnName('school.example:4173', '0.0.0.0')).toBe(false);
		expect(isOwnName('', '0.0.0.0')).toBe(false);
	});
});
