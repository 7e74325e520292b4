import { request as httpRequest, type IncomingMessage, type OutgoingHttpHeaders } from 'node:http';
import { request as httpsRequest } from 'node:https';
import type { Receipt } from '../store/deliveries';
import { RefusedError, UnreachableError, type Parcel, type PortalAssignment, type Target } from './target';

/** Milliseconds of silence after which an answer counts as lost. */
const PATIENCE = 30_000;
/** Milliseconds that a question on which somebody waits may take. */
const SHORT_PATIENCE = 4_000;

interface Ask {
	readonly method: 'GET' | 'PUT' | 'POST' | 'DELETE';
	readonly headers?: OutgoingHttpHeaders;
	readonly body?: Buffer;
	readonly patience?: number;
	/** Called when the last byte has gone out. */
	readonly sent?: () => void;
}

/** The grading portal, over its HTTP interface (docs/formats.md). */
export class Portal implements Target {
	readonly name = 'portal';
	readonly confirms = 'received';

	constructor(readonly address: string) {}

	/** Everything that can be handed in at the portal. */
	async assignments(): Promise<PortalAssignment[]> {
		return JSON.parse(
			await this.#ask('/api/assignments', { method: 'GET', patience: SHORT_PATIENCE })
		) as PortalAssignment[];
	}

	/** Tells the portal of an assignment, or of what has changed in it. */
	async publish(assignment: PortalAssignment, patience = PATIENCE): Promise<void> {
		await this.#ask(`/api/assignments/${encodeURIComponent(assignment.id)}`, {
			method: 'PUT',
			headers: { 'content-type': 'application/json' },
			body: Buffer.from(JSON.stringify(assignment)),
			patience
		});
	}

	async deliver(parcel: Parcel, sent: () => void): Promise<Receipt> {
		const known = parcel.tries > 0 ? await this.#arrived(parcel.key) : null;
		const receipt = known ?? (await this.#send(parcel, sent));
		if (receipt.sha256 !== parcel.sha256) {
			throw new RefusedError('The portal stored something other than what was sent. Hand in again.');
		}
		return receipt;
	}

	async recall(key: string): Promise<void> {
		await this.#ask(`/api/keys/${encodeURIComponent(key)}`, { method: 'DELETE' });
	}

	/** What came under a key; after a lost answer this saves sending it all again. */
	async #arrived(key: string): Promise<Receipt | null> {
		try {
			return receiptIn(await this.#ask(`/api/keys/${encodeURIComponent(key)}`, { method: 'GET' }));
		} catch (error) {
			if (error instanceof RefusedError) return null;
			throw error;
		}
	}

	async #send(parcel: Parcel, sent: () => void): Promise<Receipt> {
		const { assignment, to } = parcel;
		if (to === assignment.id) await this.publish(assignment);
		const answer = await this.#ask(`/api/assignments/${encodeURIComponent(to)}/submissions`, {
			method: 'POST',
			headers: {
				'content-type': parcel.type === 'pdf' ? 'application/pdf' : 'application/zip',
				'idempotency-key': parcel.key,
				// RFC 9530
				'content-digest': `sha-256=:${Buffer.from(parcel.sha256, 'hex').toString('base64')}:`,
				'x-student': encodeURIComponent(parcel.student.name),
				'x-file-name': encodeURIComponent(parcel.fileName),
				'x-comment': encodeURIComponent(parcel.comment),
				...(parcel.replaces ? { 'x-replaces': encodeURIComponent(parcel.replaces) } : {})
			},
			body: parcel.bytes,
			sent
		});
		return receiptIn(answer);
	}

	async #ask(path: string, ask: Ask): Promise<string> {
		const { status, retryAfter, text } = await exchange(this.address + path, ask).catch(() => {
			throw new UnreachableError('The grading portal does not answer.');
		});
		if (status >= 200 && status < 300) return text;
		if (status >= 500 || status === 429) {
			throw new UnreachableError(`The grading portal has trouble (${status}).`, retryAfter);
		}
		throw new RefusedError(messageIn(text) ?? `The grading portal said no (${status}).`);
	}
}

function receiptIn(text: string): Receipt {
	const { number, receivedAt, sha256, bytes, late } = JSON.parse(text) as Receipt;
	return { number, receivedAt, sha256, bytes, late };
}

function messageIn(text: string): string | null {
	try {
		return (JSON.parse(text) as { message?: string }).message ?? null;
	} catch {
		return null;
	}
}

interface Answer {
	readonly status: number;
	/** Seconds. */
	readonly retryAfter: number | null;
	readonly text: string;
}

/** One request. Not `fetch`, which does not say when the body has gone out. */
function exchange(
	address: string,
	{ method, headers, body, patience = PATIENCE, sent }: Ask
): Promise<Answer> {
	return new Promise((done, fail) => {
		const send = address.startsWith('https:') ? httpsRequest : httpRequest;
		const request = send(address, {
			method,
			headers: { ...headers, ...(body ? { 'content-length': body.length } : {}) },
			timeout: patience
		});
		request.on('timeout', () => request.destroy(new Error('No answer in time.')));
		request.on('error', fail);
		request.on('response', (response) => {
			textOf(response).then(
				(text) =>
					done({
						status: response.statusCode ?? 0,
						retryAfter: secondsIn(response.headers['retry-after']),
						text
					}),
				fail
			);
		});
		request.end(body, () => sent?.());
	});
}

async function textOf(response: IncomingMessage): Promise<string> {
	const chunks: Buffer[] = [];
	for await (const chunk of response as AsyncIterable<Buffer>) chunks.push(chunk);
	return Buffer.concat(chunks).toString('utf8');
}

function secondsIn(header: string | undefined): number | null {
	const seconds = Number(header);
	return header && Number.isFinite(seconds) && seconds >= 0 ? seconds : null;
}
