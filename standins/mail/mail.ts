import { randomUUID } from 'node:crypto';
import { mkdir, readdir, readFile, rename, writeFile } from 'node:fs/promises';
import { createServer, type Server } from 'node:http';
import type { AddressInfo, Socket } from 'node:net';
import { join } from 'node:path';
import { simpleParser } from 'mailparser';
import { SMTPServer } from 'smtp-server';

// A stand-in for a school's mail server: it takes letters on loopback, keeps them in a folder, one file a Message-ID, and
// shows them on a page. It passes nothing on.

export interface Letter {
	readonly id: string;
	readonly from: string;
	readonly to: readonly string[];
	readonly subject: string;
	readonly text: string;
	readonly attachments: readonly { readonly name: string; readonly bytes: number }[];
}

export interface RunningMail {
	/** smtp://… */
	readonly server: string;
	/** The page that shows what arrived. */
	readonly page: string;
	letters(): Promise<Letter[]>;
	/** The bytes of a letter's attachment. */
	attachment(id: string, index: number): Promise<Buffer>;
	close(): Promise<void>;
}

const MOST = 30_000_000;

/** Starts the mail server. Ports of 0 take free ones. */
export async function startMail(options: {
	readonly folder: string;
	readonly port: number;
	readonly pagePort: number;
}): Promise<RunningMail> {
	const { folder } = options;
	await mkdir(folder, { recursive: true });
	/** Letters that are kept and whose answer is lost. */
	let answersToLose = 0;
	const smtp = new SMTPServer({
		authOptional: true,
		disabledCommands: ['STARTTLS', 'AUTH'],
		size: MOST,
		onData(stream, session, done) {
			const chunks: Buffer[] = [];
			stream.on('data', (chunk: Buffer) => chunks.push(chunk));
			stream.on('end', () => {
				if (stream.sizeExceeded) {
					done(Object.assign(new Error('This letter is too large.'), { responseCode: 552 }));
					return;
				}
				keep(folder, Buffer.concat(chunks)).then(() => {
					if (answersToLose === 0) return done();
					// The letter is kept; whoever sent it never hears so.
					answersToLose--;
					cutLine(smtp, session.id);
				}, done);
			});
		}
	});
	smtp.on('error', (error) => console.error('Stand-in mail:', error));
	await new Promise<void>((ready) => smtp.listen(options.port, '127.0.0.1', ready));
	const web = createServer((request, response) => {
		if (request.method === 'POST' && request.url === '/lose') {
			answersToLose++;
			response.writeHead(303, { location: '/' }).end();
			return;
		}
		page(folder, request.url ?? '/', answersToLose).then(
			({ type, body }) => {
				response.writeHead(body ? 200 : 404, { 'content-type': type });
				response.end(body ?? 'There is nothing here.');
			},
			(error: unknown) => {
				console.error(error);
				response.writeHead(500).end();
			}
		);
	});
	await new Promise<void>((ready) => web.listen(options.pagePort, '127.0.0.1', ready));
	return {
		server: `smtp://127.0.0.1:${portOf(smtp.server)}`,
		page: `http://127.0.0.1:${portOf(web)}`,
		letters: () => lettersIn(folder),
		attachment: (id, index) => attachmentOf(folder, id, index),
		close: async () => {
			await new Promise<void>((closed) => smtp.close(closed));
			await new Promise((closed) => web.close(closed));
		}
	};
}

function portOf(server: Pick<Server, 'address'>): number {
	return (server.address() as AddressInfo).port;
}

/** A letter with a Message-ID that is there already takes its own place: it is the same one, sent again. */
async function keep(folder: string, raw: Buffer): Promise<void> {
	const { messageId } = await simpleParser(raw);
	const id = (messageId ?? randomUUID()).replace(/[^A-Za-z0-9]+/g, '_');
	const temporary = join(folder, `${randomUUID()}.part`);
	await writeFile(temporary, raw);
	await rename(temporary, join(folder, `${id}.eml`));
}

async function lettersIn(folder: string): Promise<Letter[]> {
	const names = (await readdir(folder)).filter((n) => n.endsWith('.eml')).sort();
	return Promise.all(
		names.map(async (name) => {
			const letter = await simpleParser(await readFile(join(folder, name)));
			const to = [letter.to ?? []].flat().flatMap((t) => t.value.map((v) => v.address ?? ''));
			return {
				id: name.replace('.eml', ''),
				from: letter.from?.text ?? '',
				to,
				subject: letter.subject ?? '',
				text: letter.text ?? '',
				attachments: letter.attachments.map((a) => ({ name: a.filename ?? '', bytes: a.size }))
			};
		})
	);
}

async function attachmentOf(folder: string, id: string, index: number): Promise<Buffer> {
	const letter = await simpleParser(await readFile(join(folder, `${id.replace(/\W/g, '')}.eml`)));
	const found = letter.attachments[index];
	if (!found) throw new Error('This letter has no such attachment.');
	return found.content;
}

const escape = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

/** Ends the connection of a session, in the middle of whatever it is at. */
function cutLine(smtp: SMTPServer, session: string): void {
	const all = smtp.connections as unknown as Set<{ id: string; _socket: Socket }>;
	for (const { id, _socket: socket } of all) if (id === session) socket.destroy();
}

async function page(
	folder: string,
	path: string,
	answersToLose: number
): Promise<{ type: string; body: Buffer | string | null }> {
	const [, id, index] = /^\/([A-Za-z0-9_]+)\/(\d+)$/.exec(path) ?? [];
	if (id) {
		const body = await attachmentOf(folder, id, Number(index)).catch(() => null);
		return { type: 'application/octet-stream', body };
	}
	if (path !== '/') return { type: 'text/plain', body: null };
	const rows = (await lettersIn(folder)).map(
		(l) => `<tr><td>${escape(l.from)}</td><td>${escape(l.to.join(', '))}</td><td>${escape(l.subject)}</td>
			<td><pre>${escape(l.text)}</pre></td><td>${l.attachments
				.map((a, i) => `<a href="/${l.id}/${i}">${escape(a.name)}</a> ${Math.round(a.bytes / 1000)} KB`)
				.join('<br>')}</td></tr>`
	);
	return {
		type: 'text/html; charset=utf-8',
		body: `<!doctype html>
<html lang="en">
<head><meta charset="utf-8"><title>Stand-in mail server</title>
<style>body { font: 16px/1.5 system-ui, sans-serif; margin: 2rem; } td { padding: 0.5rem; border-bottom: 1px solid #bbb;
vertical-align: top; } pre { margin: 0; white-space: pre-wrap; }</style></head>
<body><h1>Stand-in mail server</h1><p>This page belongs to a simulation that ships with Membrana. Nothing is passed on.</p>
<form method="post" action="/lose"><button>Keep the next letter, but lose the answer</button>
${answersToLose > 0 ? ` (${answersToLose} to come)` : ''}</form>
${rows.length === 0 ? '<p>No letter has come yet.</p>' : `<table>${rows.join('\n')}</table>`}</body></html>`
	};
}
