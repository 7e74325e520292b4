import { spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export interface OwnServer {
	readonly address: string;
	readonly folder: string;
	/** What it wrote on standard error. */
	output(): string;
	stop(): Promise<void>;
}

/** Starts a built program of Membrana on an empty folder, and waits until it answers. */
export async function startOnEmptyFolder(
	program: 'serve' | 'mine',
	more: NodeJS.ProcessEnv = {}
): Promise<OwnServer> {
	const folder = mkdtempSync(join(tmpdir(), `membrana-${program}-`));
	const port = await freePort();
	const address = `http://127.0.0.1:${port}`;
	const { MEMBRANA_PORTAL: _, ...environment } = process.env;
	const child = spawn(
		process.execPath,
		[`build-node/${program}.js`, ...(program === 'mine' ? [folder] : [])],
		{
			stdio: ['ignore', 'ignore', 'pipe'],
			env: {
				...environment,
				MEMBRANA_DATA: folder,
				MEMBRANA_BROWSER: 'none',
				MEMBRANA_RESERVE_MB: '50',
				HOST: '127.0.0.1',
				PORT: String(port),
				ORIGIN: address,
				SHUTDOWN_TIMEOUT: '1',
				...more
			}
		}
	);
	let output = '';
	child.stderr.on('data', (chunk: Buffer) => (output += chunk.toString()));
	const gone = new Promise<void>((done) => child.on('exit', () => done()));
	for (let i = 0; ; i++) {
		const up = await fetch(address).then(
			(r) => r.ok,
			() => false
		);
		if (up) break;
		if (i > 600 || child.exitCode !== null) throw new Error(`The server did not start: ${output}`);
		await new Promise((done) => setTimeout(done, 100));
	}
	return {
		address,
		folder,
		output: () => output,
		stop: async () => {
			child.kill('SIGTERM');
			await gone;
		}
	};
}

async function freePort(): Promise<number> {
	const server = createServer();
	await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
	const { port } = server.address() as AddressInfo;
	await new Promise((done) => server.close(done));
	return port;
}
