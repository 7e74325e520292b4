import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { setTimeout as pause } from 'node:timers/promises';
import Joi from 'joi';
import { FaultSwitch, NO_FAULTS, parseFaults, type Faults } from './faults';
import { portalPage } from './page';
import {
	Refusal,
	Submissions,
	type Arriving,
	type PortalAssignment,
	type PortalOptions
} from './submissions';

// A stand-in for a school's grading portal: small, separate, and strict about what it is sent.
// Its HTTP interface is described in docs/formats.md.

interface Portal {
	readonly kept: Submissions;
	readonly faults: FaultSwitch;
	readonly maxBytes: number;
}

/** Starts the portal on loopback. Port 0 takes a free one. */
export async function startPortal(
	options: PortalOptions
): Promise<{ address: string; server: Server; faults: FaultSwitch; close: () => Promise<void> }> {
	const kept = new Submissions(options);
	await kept.open();
	const faults = new FaultSwitch();
	const server = createServer((request, response) => {
		route({ kept, faults, maxBytes: options.maxBytes }, request, response).catch((error: unknown) => {
			if (response.destroyed || error instanceof LineCut) return;
			if (error instanceof Refusal) return answer(response, error.status, { message: error.message });
			if (error instanceof Joi.ValidationError) return answer(response, 400, { message: error.message });
			console.error(error);
			answer(response, 500, { message: 'The portal has trouble.' });
		});
	});
	await new Promise<void>((done) => server.listen(options.port, '127.0.0.1', done));
	const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
	const close = () =>
		new Promise<void>((done) => {
			server.close(() => done());
			server.closeAllConnections();
		});
	return { address, server, faults, close };
}

/** The line was cut, by the sender or on purpose: there is nobody to answer. */
class LineCut extends Error {}

const assignmentSchema = Joi.object({
	id: Joi.string().max(100).required(),
	title: Joi.string().max(300).required(),
	course: Joi.string().max(100).required(),
	due: Joi.string().isoDate().allow(null).required(),
	grace: Joi.number().min(0).default(0),
	strict: Joi.boolean().required(),
	proofKey: Joi.string().max(1000).allow(null).default(null)
});

async function route(portal: Portal, request: IncomingMessage, response: ServerResponse): Promise<void> {
	const { kept, faults } = portal;
	const url = new URL(request.url ?? '/', 'http://portal');
	const [, first, kind, id, rest] = url.pathname.split('/').map(decodeURIComponent);
	const at = `${request.method ?? 'GET'} ${[first, kind, id && ':id', rest].filter(Boolean).join('/')}`;
	switch (at) {
		case 'GET ':
			response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' });
			response.end(portalPage(kept.assignments, kept.all, faults.now));
			return;
		case 'POST standin/faults':
		case 'PUT standin/faults':
			await setFaults(faults, request, response);
			return;
		case 'GET api/submissions':
			return answer(response, 200, kept.all);
		case 'GET api/submissions/:id/file': {
			const submission = kept.byNumber(id!);
			response.writeHead(200, {
				'content-type': submission.type,
				'content-length': submission.bytes,
				'content-disposition': `inline; filename*=UTF-8''${encodeURIComponent(submission.fileName)}`
			});
			createReadStream(kept.pathOf(submission.sha256)).pipe(response);
			return;
		}
	}
	// What a client of the portal asks for is struck by the faults; what tests and people look at is not.
	const fault = faults.strike();
	if (fault.slow > 0) await pause(fault.slow);
	if (fault.status) {
		if (fault.status === 503) response.setHeader('retry-after', '1');
		request.resume();
		throw new Refusal(fault.status, 'The portal has trouble.');
	}
	switch (at) {
		case 'GET api/assignments':
			return answer(response, 200, kept.assignments);
		case 'PUT api/assignments/:id': {
			const given = JSON.parse((await bodyOf(request, 100_000)).toString('utf8')) as object;
			await kept.publish(Joi.attempt({ ...given, id }, assignmentSchema) as PortalAssignment);
			return answer(response, 200, { id });
		}
		case 'POST api/assignments/:id/submissions': {
			const { submission, isNew } = await receive(portal, id!, request, fault);
			if (fault.loseAnswer) throw cut(request);
			return answer(response, isNew ? 201 : 200, submission);
		}
		case 'GET api/keys/:id': {
			const submission = kept.byKey(id!);
			if (!submission) throw new Refusal(404, 'Nothing has come under this key.');
			if (fault.loseAnswer) throw cut(request);
			return answer(response, 200, submission);
		}
		case 'DELETE api/keys/:id': {
			const recalled = await kept.recall(id!);
			if (fault.loseAnswer) throw cut(request);
			return answer(response, 200, { number: recalled?.number ?? null });
		}
	}
	throw new Refusal(404, 'The portal has nothing at this address.');
}

/** Cuts the line before anything is answered. */
function cut(request: IncomingMessage): LineCut {
	request.socket.destroy();
	return new LineCut();
}

async function receive(
	{ kept, maxBytes }: Portal,
	assignmentId: string,
	request: IncomingMessage,
	fault: Faults
) {
	const header = (name: string) => String(request.headers[name] ?? '');
	const whole = await bodyOf(request, maxBytes + MOST_ABOUT, fault.cutAt);
	const { about, file } = await partsOf(whole, header('content-type'));
	const { type } = file;
	const body = Buffer.from(await file.arrayBuffer());
	if (body.length > maxBytes) throw tooLarge(maxBytes);
	if (fault.refuse === 'size') throw tooLarge(body.length - 1);
	if (!kept.assignment(assignmentId)) throw new Refusal(404, 'The portal does not know this assignment.');
	if (fault.refuse === 'type' || (type !== 'application/pdf' && type !== 'application/zip')) {
		throw new Refusal(
			415,
			fault.refuse === 'type'
				? 'The portal does not take this type of file.'
				: 'The portal takes PDF and ZIP files only.'
		);
	}
	const key = header('idempotency-key');
	if (!key) throw new Refusal(400, 'An Idempotency-Key is missing.');
	const sha256 = createHash('sha256').update(body).digest('hex');
	const digest = /sha-256=:([A-Za-z0-9+/=]+):/.exec(header('content-digest'))?.[1];
	if (!digest || Buffer.from(digest, 'base64').toString('hex') !== sha256) {
		throw new Refusal(400, 'What arrived is not what was sent.');
	}
	return kept.receive({ ...about, assignmentId, type, key, sha256, body }, fault.pastDue);
}

/** Bytes that may stand around a file. */
const MOST_ABOUT = 100_000;

const aboutSchema = Joi.object({
	student: Joi.string().max(200).required(),
	fileName: Joi.string().max(300).required(),
	comment: Joi.string().max(20_000).allow('').required(),
	replaces: Joi.string().max(40).allow(null).required(),
	proof: Joi.object({
		statement: Joi.string().max(4000).required(),
		signature: Joi.string().max(200).required(),
		publicKey: Joi.string().max(1000).required()
	}).allow(null)
});

/** The two parts of a submission (RFC 7578): what it is, and the file. */
async function partsOf(
	body: Buffer,
	contentType: string
): Promise<{ about: Pick<Arriving, 'student' | 'fileName' | 'comment' | 'replaces' | 'proof'>; file: File }> {
	const refuse = () => new Refusal(400, 'A submission has two parts, "about" and "file".');
	let form: FormData;
	try {
		form = await new Response(body as BodyInit, { headers: { 'content-type': contentType } }).formData();
	} catch {
		throw refuse();
	}
	const [about, file] = [form.get('about'), form.get('file')];
	if (!(about instanceof File) || !(file instanceof File)) throw refuse();
	const given = Joi.attempt(JSON.parse(await about.text()), aboutSchema) as Arriving;
	return { about: { ...given, proof: given.proof ?? null }, file };
}

async function setFaults(
	faults: FaultSwitch,
	request: IncomingMessage,
	response: ServerResponse
): Promise<void> {
	const text = (await bodyOf(request, 10_000)).toString('utf8');
	const isForm = String(request.headers['content-type']).startsWith('application/x-www-form-urlencoded');
	const given = isForm ? Object.fromEntries(new URLSearchParams(text)) : (JSON.parse(text) as object);
	const { reset, ...asked } = given as Record<string, unknown>;
	faults.set(reset ? NO_FAULTS : parseFaults(asked));
	if (!isForm) return answer(response, 200, faults.now);
	response.writeHead(303, { location: '/' });
	response.end();
}

function tooLarge(most: number): Refusal {
	return new Refusal(
		413,
		`The portal takes at most ${Math.round(most / 100_000) / 10} MB; this file is larger.`
	);
}

async function bodyOf(request: IncomingMessage, most: number, cutAt: number | null = null): Promise<Buffer> {
	const chunks: Buffer[] = [];
	let bytes = 0;
	try {
		for await (const chunk of request as AsyncIterable<Buffer>) {
			bytes += chunk.length;
			if (cutAt !== null && bytes >= cutAt) {
				request.socket.destroy();
				throw new LineCut();
			}
			if (bytes <= most) chunks.push(chunk);
		}
	} catch {
		throw new LineCut();
	}
	// A file shorter than where the line is to be cut: cut at its end.
	if (cutAt !== null) {
		request.socket.destroy();
		throw new LineCut();
	}
	// Read to its end before refusing, or the sender never sees the answer.
	if (bytes > most) throw tooLarge(most);
	return Buffer.concat(chunks);
}

function answer(response: ServerResponse, status: number, body: unknown): void {
	response.writeHead(status, { 'content-type': 'application/json' });
	response.end(JSON.stringify(body));
}
