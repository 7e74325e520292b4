import { spawn } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';

export const PORTAL = 'http://127.0.0.1:4380';
export const MAIL_PAGE = 'http://127.0.0.1:4382';
export const FOLDER = resolve('test-results/demo');

/**
 * Starts the demo on ports and in a folder of its own; the returned function stops it, and sweeps away what it and the
 * tests put down elsewhere.
 */
export default async function start(): Promise<() => Promise<void>> {
	const folder = await mkdtemp(join(tmpdir(), 'membrana-browser-'));
	process.env.TMPDIR = folder;
	const demo = spawn(process.execPath, ['build-node/demo.js'], {
		stdio: 'inherit',
		env: { ...process.env, MEMBRANA_DEMO_FOLDER: FOLDER, PORT: '4373', PORTAL_PORT: '4380' }
	});
	const gone = new Promise<void>((done) => demo.on('exit', () => done()));
	for (let i = 0; ; i++) {
		const up = await fetch('http://127.0.0.1:4373/sign-in').then(
			(r) => r.ok,
			() => false
		);
		if (up) break;
		if (i > 4000 || demo.exitCode !== null) throw new Error('The demo did not start.');
		await new Promise((done) => setTimeout(done, 100));
	}
	return async () => {
		demo.kill('SIGTERM');
		await gone;
		await rm(folder, { recursive: true, force: true, maxRetries: 3 });
	};
}
