import { spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { homedir } from 'node:os';
import { join, resolve } from 'node:path';

// `node build-node/mine.js [FOLDER]`: for one person on this computer. Only this computer reaches it.

const FIRST_PORT = 4173;
const PORTS = 20;

const folder = resolve(process.argv[2] ?? process.env.MEMBRANA_DATA ?? join(homedir(), 'Membrana'));
const port = process.env.PORT ? Number(process.env.PORT) : await freePort();
const address = `http://127.0.0.1:${port}`;
Object.assign(process.env, {
	MEMBRANA_MINE: '1',
	MEMBRANA_DATA: folder,
	HOST: '127.0.0.1',
	PORT: String(port)
});
await import('./serve');
await answering();
process.stderr.write(`\nMembrana is at  ${address}\nEverything is in ${folder}\nIt ends with Ctrl+C.\n\n`);
openBrowser();

async function freePort(): Promise<number> {
	for (let port = FIRST_PORT; port < FIRST_PORT + PORTS; port++) {
		const isFree = await new Promise<boolean>((done) => {
			const server = createServer();
			server.once('error', () => done(false));
			server.listen(port, '127.0.0.1', () => server.close(() => done(true)));
		});
		if (isFree) return port;
	}
	return FIRST_PORT;
}

async function answering(): Promise<void> {
	for (let i = 0; i < 600; i++) {
		const ok = await fetch(address).then(
			(r) => r.ok,
			() => false
		);
		if (ok) return;
		await new Promise((done) => setTimeout(done, 100));
	}
}

/** Where there is a desktop to open it on; otherwise the address stands above. */
function openBrowser(): void {
	const [command] =
		process.platform === 'darwin'
			? ['open']
			: process.env.DISPLAY || process.env.WAYLAND_DISPLAY
				? ['xdg-open']
				: [];
	if (!command || process.env.MEMBRANA_BROWSER === 'none') return;
	spawn(command, [address], { stdio: 'ignore', detached: true })
		.on('error', () => undefined)
		.unref();
}
