import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { get } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { freePort, pause } from '../support/app';

const folder = mkdtempSync(join(tmpdir(), 'membrana-tls-'));
const certificate = join(folder, 'certificate.pem');
const key = join(folder, 'key.pem');
execFileSync(
	'openssl',
	`req -x509 -newkey rsa:2048 -nodes -days 2 -subj /CN=localhost -keyout ${key} -out ${certificate}`.split(
		' '
	),
	{ stdio: 'ignore' }
);

const settings = (port: number, more: NodeJS.ProcessEnv) => ({
	...process.env,
	MEMBRANA_DATA: join(folder, 'data'),
	HOST: '127.0.0.1',
	PORT: String(port),
	ORIGIN: `https://127.0.0.1:${port}`,
	SHUTDOWN_TIMEOUT: '1',
	...more
});

function status(port: number): Promise<number> {
	return new Promise((done) => {
		get({ host: '127.0.0.1', port, path: '/first', rejectUnauthorized: false }, (response) => {
			response.resume();
			done(response.statusCode ?? 0);
		}).on('error', () => done(0));
	});
}

it('serves over TLS with a given certificate, and goes when told', async () => {
	const port = await freePort();
	const env = settings(port, { MEMBRANA_TLS_CERT: certificate, MEMBRANA_TLS_KEY: key });
	const app = spawn(process.execPath, ['build-node/serve.js'], { stdio: 'ignore', env });
	const gone = new Promise<void>((done) => app.on('exit', () => done()));
	try {
		let seen = 0;
		for (let i = 0; i < 300 && seen === 0; i++) {
			seen = await status(port);
			await pause(100);
		}
		expect(seen).toBe(200);
	} finally {
		app.kill('SIGTERM');
	}
	await gone;
});

it('says what is wrong with a certificate that cannot be used', async () => {
	const port = await freePort();
	const rubbish = join(folder, 'rubbish.pem');
	writeFileSync(rubbish, 'no certificate');
	const run = (more: NodeJS.ProcessEnv) =>
		spawnSync(process.execPath, ['build-node/serve.js'], { encoding: 'utf8', env: settings(port, more) });
	for (const [more, message] of [
		[{ MEMBRANA_TLS_CERT: certificate }, 'Give both'],
		[{ MEMBRANA_TLS_CERT: join(folder, 'nowhere.pem'), MEMBRANA_TLS_KEY: key }, 'cannot be read'],
		[{ MEMBRANA_TLS_CERT: rubbish, MEMBRANA_TLS_KEY: key }, 'cannot be used']
	] as const) {
		const { status: code, stderr } = run(more);
		expect([code, stderr]).toEqual([1, expect.stringContaining(message)]);
	}
});
