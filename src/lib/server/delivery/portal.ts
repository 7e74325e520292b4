import { request as httpRequest, type IncomingMessage, type OutgoingHttpHeaders } from 'node:http';
import { request as httpsRequest } from 'node:https';
import type { Receipt } from '../store/deliveries';
import { multipart } from './multipart';
import {
	RefusedError,
	UnreachableError,
	type Submission,
	type PortalAssignment,
	type Recalled,
	type Target
} from './target';

/** Milliseconds of silence after which an answer counts as lost. */
const TIMEOUT_MS = 30_000;
/** Milliseconds for which a list of assignments is new. */
const FRESH = 30_000;
/** Milliseconds after which a portal that did not answer is asked for its list again. */
const AFTER_FAILURE = 2_000;
/** Milliseconds that a question on which somebody waits may take. */
const SHORT_TIMEOUT_MS = 4_000;

interface Ask {
	readonly method: 'GET' | 'PUT' | 'POST' | 'DELETE';
	readonly headers?: OutgoingHttpHeaders;
	readonly body?: Buffer;
	readonly timeout?: number;
	/** Called when the last byte has gone out. */
	readonly sent?: () => void;
}

/** The grading portal, over its HTTP interface (docs/formats.md). */
export class Portal implements Target {
	readonly name = 'portal';
	readonly confirms = 'received';

	readonly knowsKeys = true;
	#known: { readonly list: readonly PortalAssignment[]; readonly at: number } | null = null;
	#asking: Promise<void> | null = null;
	#failedAt = 0;

	/** @param proofKey the public key of this server's proofs, which the portal is told with each assignment */
	constructor(
		readonly address: string,
		readonly proofKey: string | null = null
	) {}

	/**
	 * Everything that can be handed in at the portal, as far as it is known now; nobody waits for it. What is not new any
	 * more is asked for again meanwhile, and `own` made known to the portal.
	 */
	look(own: PortalAssignment): {
		readonly list: readonly PortalAssignment[] | null;
		readonly asking: boolean;
	} {
		const now = Date.now();
		const isFresh = this.#known !== null && now - this.#known.at < FRESH && holds(this.#known.list, own);
		if (!isFresh && now - this.#failedAt > AFTER_FAILURE) {
			this.#asking ??= this.publish(own, SHORT_TIMEOUT_MS)
				.then(() => this.assignments())
				.then(
					(list) => {
						this.#known = { list, at: Date.now() };
						this.#failedAt = 0;
					},
					() => {
						this.#known = null;
						this.#failedAt = Date.now();
					}
				)
				.finally(() => (this.#asking = null));
		}
		return { list: this.#known?.list ?? null, asking: this.#asking !== null };
	}

	/** Everything that can be handed in at the portal. */
	async assignments(): Promise<PortalAssignment[]> {
		return JSON.parse(
			await this.#ask('/api/assignments', { method: 'GET', timeout: SHORT_TIMEOUT_MS })
		) as PortalAssignment[];
	}

	/** Tells the portal of an assignment, or of what has changed in it. */
	async publish(assignment: PortalAssignment, timeout = TIMEOUT_MS): Promise<void> {
		await this.#ask(`/api/assignments/${encodeURIComponent(assignment.id)}`, {
			method: 'PUT',
			headers: { 'content-type': 'application/json' },
			body: Buffer.from(JSON.stringify({ ...assignment, proofKey: this.proofKey })),
			timeout
		});
	}

	async deliver(submission: Submission, sent: () => Promise<void>): Promise<Receipt> {
		const known = submission.tries > 0 ? await this.#arrived(submission.key) : null;
		const receipt = known ?? (await this.#send(submission, sent));
		if (receipt.sha256 !== submission.sha256) {
			throw new RefusedError('The portal stored something other than what was sent. Hand in again.');
		}
		return receipt;
	}

	async recall({ key }: Recalled): Promise<void> {
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

	async #send(submission: Submission, sent: () => Promise<void>): Promise<Receipt> {
		const { assignment, to } = submission;
		if (to === assignment.id) await this.publish(assignment);
		const about = {
			student: submission.student.name,
			fileName: submission.fileName,
			comment: submission.comment,
			replaces: submission.replaces?.number ?? null,
			proof: submission.proof
		};
		const type = submission.type === 'pdf' ? 'application/pdf' : 'application/zip';
		const { contentType, body } = multipart([
			{ name: 'about', type: 'application/json', bytes: Buffer.from(JSON.stringify(about)) },
			{ name: 'file', type, bytes: submission.bytes }
		]);
		const answer = await this.#ask(`/api/assignments/${encodeURIComponent(to)}/submissions`, {
			method: 'POST',
			headers: {
				'content-type': contentType,
				'idempotency-key': submission.key,
				// RFC 9530, over the file
				'content-digest': `sha-256=:${Buffer.from(submission.sha256, 'hex').toString('base64')}:`
			},
			body,
			sent: () => void sent()
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

/** Whether a list has an assignment as it is now. */
function holds(list: readonly PortalAssignment[], own: PortalAssignment): boolean {
	const there = list.find((a) => a.id === own.id);
	return there?.title === own.title && there.due === own.due && there.strict === own.strict;
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
	{ method, headers, body, timeout = TIMEOUT_MS, sent }: Ask
): Promise<Answer> {
	return new Promise((done, fail) => {
		const send = address.startsWith('https:') ? httpsRequest : httpRequest;
		const request = send(address, {
			method,
			headers: { ...headers, ...(body ? { 'content-length': body.length } : {}) },
			timeout
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
