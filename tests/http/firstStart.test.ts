import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Client } from '../support/app';
import { startOnEmptyFolder, startProgram, type RunningApp } from '../support/start';

let app: RunningApp & { readonly folder: string };
beforeAll(async () => {
	app = await startOnEmptyFolder('serve');
});
afterAll(() => app.kill('SIGTERM'));

const FIELDS = {
	school: 'Alder Fen Field School',
	given: 'Wessel',
	family: 'Hartkamp',
	login: 'Wessel',
	password: 'towpath lantern osier'
};
const pathIn = (output: string) => /\/first\/[\w-]+/.exec(output)![0];
const post = (path: string, fields: Record<string, string> = FIELDS) =>
	new Client(app.address, '').fetch(path, {
		method: 'POST',
		headers: { accept: 'text/html' },
		body: new URLSearchParams(fields)
	});

describe('the first start', () => {
	it('answers nothing but what was printed', async () => {
		const nobody = new Client(app.address, '');
		for (const path of ['/', '/sign-in', '/school', '/forgotten', '/come-in/x']) {
			const response = await nobody.fetch(path);
			expect([path, response.status, response.headers.get('location')]).toEqual([path, 303, '/first']);
		}
		expect((await nobody.fetch('/api/proof', { method: 'POST', body: '{}' })).status).toBe(503);
		expect((await nobody.fetch('/first/guessed')).status).toBe(404);
		expect((await post('/first/guessed')).status).toBe(404);
	});

	it('prints another address when it is started again, and takes only names and a password that can be used', async () => {
		const before = pathIn(app.output());
		await app.kill('SIGTERM');
		const { folder } = app;
		const again = await startProgram('serve', Number(new URL(app.address).port), {
			MEMBRANA_DATA: folder,
			MEMBRANA_PORTAL: '',
			MEMBRANA_READER: 'off'
		});
		app = { ...again, folder };
		const path = pathIn(app.output());
		expect(path).not.toBe(before);
		const wrong = [
			{ ...FIELDS, school: ' ' },
			{ ...FIELDS, given: '', family: '' },
			{ ...FIELDS, login: 'two words' },
			{ ...FIELDS, email: 'nowhere' },
			{ ...FIELDS, password: 'short' },
			{ ...FIELDS, password: 'password1234' },
			{ ...FIELDS, password: 'WesselHartkamp' }
		];
		for (const fields of wrong) expect([fields, (await post(path, fields)).status]).toEqual([fields, 400]);
	});

	it('makes one administrator, however many open the address at once', async () => {
		const path = pathIn(app.output());
		const answers = await Promise.all(
			['wessel', 'rival', 'other'].map((login) => post(path, { ...FIELDS, login }))
		);
		expect(answers.map((a) => a.status).sort()).toEqual([303, 404, 404]);
		expect((await post(path)).status).toBe(404);
		const signedIn = answers.find((a) => a.status === 303)!;
		expect(signedIn.headers.get('location')).toBe('/school');
		const administrator = new Client(app.address, signedIn.headers.get('set-cookie')!.split(';')[0]!);
		expect(await (await administrator.fetch('/school/people')).text()).toContain('1 person');
		expect((await new Client(app.address, '').fetch('/sign-in')).status).toBe(200);
	});
});
