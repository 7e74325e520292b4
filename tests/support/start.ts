import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export interface RunningApp {
	readonly address: string;
	readonly process: ChildProcess;
	/** What it wrote on standard error. */
	output(): string;
	kill(signal: NodeJS.Signals): Promise<void>;
}

/** Starts a built program of Membrana, and waits until it answers. */
export async function startProgram(
	program: 'serve' | 'mine',
	port: number,
	more: NodeJS.ProcessEnv
): Promise<RunningApp> {
	const address = `http://127.0.0.1:${port}`;
	const child = spawn(process.execPath, [`build-node/${program}.js`], {
		stdio: ['ignore', 'ignore', 'pipe'],
		env: {
			...process.env,
			HOST: '127.0.0.1',
			PORT: String(port),
			// Machines that run tests may have little room left.
			MEMBRANA_RESERVE_MB: '50',
			MEMBRANA_BROWSER: 'none',
			SHUTDOWN_TIMEOUT: '1',
			...more
		}
	});
	let output = '';
	child.stderr.on('data', (chunk: Buffer) => (output += chunk.toString()));
	const gone = new Promise<void>((done) => child.on('exit', () => done()));
	const hasEnded = () => child.exitCode !== null || child.signalCode !== null;
	const answers = async () => hasEnded() || (await fetch(`${address}/sign-in`)).ok;
	await until(answers).catch(() => child.kill('SIGKILL'));
	if (hasEnded() || child.killed) throw new Error(`The server did not start: ${output}`);
	return {
		address,
		process: child,
		output: () => output,
		kill: async (signal) => {
			child.kill(signal);
			await gone;
		}
	};
}

/** Starts a program on a folder in which there is nothing yet. */
export async function startOnEmptyFolder(
	program: 'serve' | 'mine',
	more: NodeJS.ProcessEnv = {}
): Promise<RunningApp & { readonly folder: string }> {
	const folder = mkdtempSync(join(tmpdir(), `membrana-${program}-`));
	const running = await startProgram(program, await freePort(), {
		MEMBRANA_DATA: folder,
		MEMBRANA_PORTAL: '',
		MEMBRANA_READER: 'off',
		...more
	});
	return { ...running, folder };
}

export async function freePort(): Promise<number> {
	const server = createServer();
	await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
	const { port } = server.address() as AddressInfo;
	await new Promise((done) => server.close(done));
	return port;
}

export const pause = (milliseconds: number) => new Promise((done) => setTimeout(done, milliseconds));

/** Milliseconds between two looks at least, and after which there is nothing to wait for any more. */
const LOOK = 100;
const IN_VAIN = 270_000;

/**
 * Looks again and again until there is something to see; minutes at most, as a slow machine is no fault. Looking costs
 * what is being waited for its processor: it never takes more than a quarter of the time.
 */
export async function until<T>(look: () => Promise<T | null | false | undefined>): Promise<T> {
	const began = performance.now();
	while (performance.now() - began < IN_VAIN) {
		const started = performance.now();
		const found = await look().catch(() => null);
		if (found) return found;
		await pause(Math.max(LOOK, 3 * (performance.now() - started)));
	}
	throw new Error('Waited in vain.');
}
