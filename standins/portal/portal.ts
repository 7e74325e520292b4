import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { join } from 'node:path';
import type { AddressInfo } from 'node:net';
import { portalPage } from './page';

// A stand-in for a school's grading portal: small, separate, and strict about what it is sent.
// Its HTTP interface is described in docs/formats.md.

export interface PortalAssignment {
	readonly id: string;
	readonly title: string;
	readonly course: string;
	readonly due: string | null;
	/** Whether what comes after the due time is refused. */
	readonly strict: boolean;
}

export interface PortalSubmission {
	readonly number: string;
	readonly assignmentId: string;
	readonly student: string;
	readonly fileName: string;
	readonly type: string;
	readonly sha256: string;
	readonly bytes: number;
	readonly receivedAt: string;
	readonly late: boolean;
	readonly key: string;
	readonly recalledAt: string | null;
}

interface State {
	assignments: Record<string, PortalAssignment>;
	submissions: PortalSubmission[];
}

export interface PortalOptions {
	readonly folder: string;
	readonly port: number;
	readonly maxBytes: number;
	readonly now?: () => number;
}

/** Starts the portal on loopback. Port 0 takes a free one. */
export async function startPortal(
	options: PortalOptions
): Promise<{ address: string; server: Server; close: () => Promise<void> }> {
	const portal = new PortalStore(options);
	await portal.open();
	const server = createServer((request, response) => {
		route(portal, request, response).catch((error: unknown) => {
			if (error instanceof Refusal) return answer(response, error.status, { message: error.message });
			console.error(error);
			answer(response, 500, { message: 'The portal has trouble.' });
		});
	});
	await new Promise<void>((done) => server.listen(options.port, '127.0.0.1', done));
	const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
	const close = () => new Promise<void>((done) => server.close(() => done()));
	return { address, server, close };
}

class Refusal extends Error {
	constructor(
		readonly status: number,
		message: string
	) {
		super(message);
	}
}

class PortalStore {
	state: State = { assignments: {}, submissions: [] };
	#writing: Promise<unknown> = Promise.resolve();

	constructor(readonly options: PortalOptions) {}

	get #file(): string {
		return join(this.options.folder, 'portal.json');
	}

	pathOf(sha256: string): string {
		return join(this.options.folder, sha256);
	}

	async open(): Promise<void> {
		await mkdir(this.options.folder, { recursive: true });
		const text = await readFile(this.#file, 'utf8').catch(() => null);
		if (text) this.state = JSON.parse(text) as State;
	}

	/** One change after another, each on disk before it is answered. */
	change<T>(work: (state: State) => Promise<T> | T): Promise<T> {
		const next = this.#writing.then(async () => {
			const result = await work(this.state);
			const temporary = `${this.#file}.${randomUUID()}`;
			await writeFile(temporary, JSON.stringify(this.state, null, '\t'));
			await rename(temporary, this.#file);
			return result;
		});
		this.#writing = next.catch(() => undefined);
		return next;
	}
}

async function route(portal: PortalStore, request: IncomingMessage, response: ServerResponse): Promise<void> {
	const path = new URL(request.url ?? '/', 'http://portal').pathname;
	const [, api, kind, id, rest] = path.split('/');
	const method = request.method ?? 'GET';
	if (path === '/' && method === 'GET') {
		response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' });
		response.end(portalPage(portal.state.assignments, portal.state.submissions));
	} else if (path === '/api/submissions' && method === 'GET') {
		answer(response, 200, portal.state.submissions);
	} else if (api === 'api' && kind === 'assignments' && id && !rest && method === 'PUT') {
		const assignment = JSON.parse((await bodyOf(request, 100_000)).toString('utf8')) as PortalAssignment;
		await portal.change((state) => {
			state.assignments[id] = { ...assignment, id };
		});
		answer(response, 200, { id });
	} else if (api === 'api' && kind === 'assignments' && id && rest === 'submissions' && method === 'POST') {
		const { submission, isNew } = await receive(portal, id, request);
		answer(response, isNew ? 201 : 200, submission);
	} else if (api === 'api' && kind === 'submissions' && id && rest === 'file' && method === 'GET') {
		const submission = find(portal, id);
		response.writeHead(200, {
			'content-type': submission.type,
			'content-length': submission.bytes,
			'content-disposition': `inline; filename*=UTF-8''${encodeURIComponent(submission.fileName)}`
		});
		createReadStream(portal.pathOf(submission.sha256)).pipe(response);
	} else if (api === 'api' && kind === 'submissions' && id && !rest && method === 'DELETE') {
		const submission = find(portal, id);
		await portal.change((state) => {
			state.submissions = state.submissions.map((s) =>
				s.number === submission.number
					? { ...s, recalledAt: s.recalledAt ?? new Date(now(portal)).toISOString() }
					: s
			);
		});
		answer(response, 200, { number: submission.number });
	} else throw new Refusal(404, 'The portal has nothing at this address.');
}

async function receive(portal: PortalStore, assignmentId: string, request: IncomingMessage) {
	const { options } = portal;
	const header = (name: string) => String(request.headers[name] ?? '');
	const assignment = portal.state.assignments[assignmentId];
	if (!assignment) throw new Refusal(404, 'The portal does not know this assignment.');
	const type = header('content-type');
	if (type !== 'application/pdf' && type !== 'application/zip') {
		throw new Refusal(415, 'The portal takes PDF and ZIP files only.');
	}
	const key = header('idempotency-key');
	if (!key) throw new Refusal(400, 'An Idempotency-Key is missing.');
	const body = await bodyOf(request, options.maxBytes);
	const sha256 = createHash('sha256').update(body).digest('hex');
	const digest = /sha-256=:([A-Za-z0-9+/=]+):/.exec(header('content-digest'))?.[1];
	if (!digest || Buffer.from(digest, 'base64').toString('hex') !== sha256) {
		throw new Refusal(400, 'What arrived is not what was sent.');
	}
	return portal.change(async (state) => {
		const before = state.submissions.find((s) => s.key === key);
		if (before) {
			if (before.sha256 !== sha256) throw new Refusal(409, 'This key was used for another file.');
			return { submission: before, isNew: false };
		}
		const late = assignment.due !== null && now(portal) > Date.parse(assignment.due);
		if (late && assignment.strict) {
			throw new Refusal(403, 'The due time has passed and this assignment takes nothing more.');
		}
		const temporary = portal.pathOf(`${randomUUID()}.part`);
		await writeFile(temporary, body);
		await rename(temporary, portal.pathOf(sha256)).catch(async (error: unknown) => {
			await rm(temporary, { force: true });
			throw error;
		});
		const submission: PortalSubmission = {
			number: `AF-${String(state.submissions.length + 1).padStart(5, '0')}`,
			assignmentId,
			student: decodeURIComponent(header('x-student')).slice(0, 200),
			fileName: decodeURIComponent(header('x-file-name')).slice(0, 200),
			type,
			sha256,
			bytes: body.length,
			receivedAt: new Date(now(portal)).toISOString(),
			late,
			key,
			recalledAt: null
		};
		state.submissions.push(submission);
		return { submission, isNew: true };
	});
}

function now(portal: PortalStore): number {
	return portal.options.now?.() ?? Date.now();
}

function find(portal: PortalStore, number: string): PortalSubmission {
	const found = portal.state.submissions.find((s) => s.number === number);
	if (!found) throw new Refusal(404, 'The portal has no such submission.');
	return found;
}

async function bodyOf(request: IncomingMessage, most: number): Promise<Buffer> {
	const chunks: Buffer[] = [];
	let bytes = 0;
	for await (const chunk of request as AsyncIterable<Buffer>) {
		bytes += chunk.length;
		if (bytes <= most) chunks.push(chunk);
	}
	// Read to its end before refusing, or the sender never sees the answer.
	if (bytes > most) {
		throw new Refusal(
			413,
			`The portal takes at most ${Math.round(most / 100_000) / 10} MB; this file is larger.`
		);
	}
	return Buffer.concat(chunks);
}

function answer(response: ServerResponse, status: number, body: unknown): void {
	response.writeHead(status, { 'content-type': 'application/json' });
	response.end(JSON.stringify(body));
}
