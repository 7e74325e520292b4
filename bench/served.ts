import { spawn } from 'node:child_process';
import { readdir, readFile } from 'node:fs/promises';
import { createServer, type AddressInfo } from 'node:net';
import { nodeBuild } from '../src/lib/server/store/nodeBuild';

// The built application, started for a benchmark on a data folder of its own.

/** Of everybody in a benchmark's school. */
export const PASSWORD = 'sandbank';

export interface Served {
	readonly address: string;
	/** The cookie of a session. */
	signIn(login: string): Promise<string>;
	/** Memory of all its processes. */
	megabytes(): Promise<number>;
	/** Looks once a second until it is asked for the most that was seen. */
	watchMemory(): () => number;
	/** Seconds of processor time so far: of the main thread, and of all processes together. */
	processor(): Promise<{ main: number; total: number }>;
	stop(): Promise<void>;
}

/** @param reads whether pages are read */
export async function serve(folder: string, reads: boolean): Promise<Served> {
	const port = await freePort();
	const address = `http://127.0.0.1:${port}`;
	const app = spawn(process.execPath, [nodeBuild('serve.js')], {
		stdio: ['ignore', 'inherit', 'inherit'],
		env: {
			...process.env,
			MEMBRANA_DATA: folder,
			MEMBRANA_PORTAL: 'http://127.0.0.1:9',
			HOST: '127.0.0.1',
			PORT: String(port),
			MEMBRANA_READER: reads ? 'on' : 'off',
			SHUTDOWN_TIMEOUT: '1'
		}
	});
	const gone = new Promise((done) => app.on('exit', done));
	const pid = app.pid!;
	const stop = async () => {
		app.kill('SIGTERM');
		await gone;
	};
	await answering(address).catch(async (error) => {
		await stop();
		throw error;
	});
	return {
		address,
		signIn: (login) => signIn(address, login),
		megabytes: () => memoryOf(pid),
		watchMemory() {
			let most = 0;
			const look = () => void memoryOf(pid).then((m) => (most = Math.max(most, m)));
			const watch = setInterval(look, 1_000);
			return () => {
				clearInterval(watch);
				return most;
			};
		},
		processor: () => processorOf(pid),
		stop
	};
}

async function signIn(address: string, login: string): Promise<string> {
	const response = await fetch(`${address}/sign-in`, {
		method: 'POST',
		redirect: 'manual',
		headers: { origin: address, accept: 'text/html' },
		body: new URLSearchParams({ login, password: PASSWORD })
	});
	return response.headers.get('set-cookie')!.split(';')[0]!;
}

/** The process and those that it started. */
async function family(pid: number): Promise<number[]> {
	const tasks = await readdir(`/proc/${pid}/task`).catch(() => []);
	const children = await Promise.all(
		tasks.map((tid) => readFile(`/proc/${pid}/task/${tid}/children`, 'utf8').catch(() => ''))
	);
	const own = children.join(' ').trim().split(/\s+/).filter(Boolean).map(Number);
	return [pid, ...(await Promise.all(own.map(family))).flat()];
}

async function memoryOf(pid: number): Promise<number> {
	const all = await Promise.all((await family(pid)).map(ownMemory));
	return all.reduce((a, b) => a + b, 0);
}

async function ownMemory(pid: number): Promise<number> {
	const status = await readFile(`/proc/${pid}/smaps_rollup`, 'utf8').catch(() => '');
	return Number(/Pss:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1024;
}

/** Memory of the page that holds most, of all that browsers started here show. */
export async function largestRenderer(): Promise<number> {
	const sizes = await Promise.all(
		(await family(process.pid)).map(async (one) => {
			const command = await readFile(`/proc/${one}/cmdline`, 'latin1').catch(() => '');
			return command.includes('--type=renderer') ? ownMemory(one) : 0;
		})
	);
	return Math.max(...sizes);
}

/** Seconds of processor time: of the main thread, and of all processes, those that ended included. */
async function processorOf(pid: number): Promise<{ main: number; total: number }> {
	const fields = async (path: string) =>
		(await readFile(path, 'latin1').catch(() => ''))
			.replace(/^.*\) /s, '')
			.split(' ')
			.map(Number);
	const main = await fields(`/proc/${pid}/task/${pid}/stat`);
	let total = 0;
	for (const one of await family(pid)) {
		const f = await fields(`/proc/${one}/stat`);
		// Its own time, and that of children that have ended.
		total += (f[11] ?? 0) + (f[12] ?? 0) + (f[13] ?? 0) + (f[14] ?? 0);
	}
	return { main: ((main[11] ?? 0) + (main[12] ?? 0)) / 100, total: total / 100 };
}

async function freePort(): Promise<number> {
	const server = createServer();
	await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
	const { port } = server.address() as AddressInfo;
	await new Promise((done) => server.close(done));
	return port;
}

async function answering(address: string): Promise<void> {
	for (let i = 0; i < 300; i++) {
		if (
			await fetch(`${address}/sign-in`).then(
				(r) => r.ok,
				() => false
			)
		)
			return;
		await pause(100);
	}
	throw new Error('The application did not start.');
}

const pause = (milliseconds: number) => new Promise((done) => setTimeout(done, milliseconds));
