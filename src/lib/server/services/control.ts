import { createHash } from 'node:crypto';
import { chmod, rm } from 'node:fs/promises';
import { connect, createServer, type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';

/** What the command line may ask of a running Membrana. */
export type Command =
	| { readonly do: 'backup'; readonly file: string }
	| {
			readonly do: 'check';
			/** A backup to take files from that are missing or damaged. */
			readonly file?: string;
	  };

export interface CommandAnswer {
	readonly ok: boolean;
	/** A sentence for whoever asked. */
	readonly says: string;
}

/** Names of sockets are short on every system. */
const LONGEST = 100;

function socketOf(folder: string): string {
	const path = join(resolve(folder), 'control.sock');
	if (path.length <= LONGEST) return path;
	const short = createHash('sha256').update(path).digest('hex').slice(0, 16);
	return join(tmpdir(), `membrana-${short}.sock`);
}

/**
 * Listens for commands from the same machine's user who owns the data folder. Nobody else may open the socket.
 * @returns how to stop
 */
export async function listenForCommands(
	folder: string,
	run: (command: Command) => Promise<string>
): Promise<() => Promise<void>> {
	const path = socketOf(folder);
	// One that is left over from a process that was killed; the folder's lock says that there is no other.
	await rm(path, { force: true });
	const server = createServer((socket) => void answer(socket, run));
	await new Promise<void>((done, fail) => {
		server.once('error', fail);
		server.listen(path, done);
	});
	await chmod(path, 0o600);
	return async () => {
		await new Promise((done) => server.close(done));
		await rm(path, { force: true });
	};
}

async function answer(socket: Socket, run: (command: Command) => Promise<string>): Promise<void> {
	socket.on('error', () => undefined);
	try {
		const says = await run(JSON.parse(await lineFrom(socket)) as Command);
		socket.end(`${JSON.stringify({ ok: true, says } satisfies CommandAnswer)}\n`);
	} catch (error) {
		socket.end(`${JSON.stringify({ ok: false, says: (error as Error).message } satisfies CommandAnswer)}\n`);
	}
}

/** Asks the Membrana that runs on a folder; null where none does. */
export async function askRunning(folder: string, command: Command): Promise<CommandAnswer | null> {
	const socket = connect(socketOf(folder));
	const isThere = await new Promise<boolean>((done) => {
		socket.once('connect', () => done(true));
		socket.once('error', () => done(false));
	});
	if (!isThere) return null;
	socket.write(`${JSON.stringify(command)}\n`);
	return JSON.parse(await lineFrom(socket)) as CommandAnswer;
}

function lineFrom(socket: Socket): Promise<string> {
	return new Promise((done, fail) => {
		let text = '';
		socket.on('data', (chunk: Buffer) => {
			text += chunk.toString('utf8');
			if (text.includes('\n')) done(text.slice(0, text.indexOf('\n')));
		});
		socket.on('close', () => fail(new Error('Membrana ended before it had answered.')));
		socket.on('error', fail);
	});
}
