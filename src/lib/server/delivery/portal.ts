import type { Receipt } from '../store/deliveries';

/** The portal answered, and its answer is no. Trying again will not help. */
export class RefusedError extends Error {
	constructor(message: string) {
		super(message);
		this.name = 'RefusedError';
	}
}

/** No answer, or one that says to come back later. */
export class UnreachableError extends Error {
	constructor(message: string) {
		super(message);
		this.name = 'UnreachableError';
	}
}

export interface PortalAssignment {
	readonly id: string;
	readonly title: string;
	readonly course: string;
	readonly due: string | null;
	/** Whether what comes after the due time is refused. */
	readonly strict: boolean;
}

export interface Submission {
	readonly assignment: PortalAssignment;
	readonly student: string;
	readonly fileName: string;
	readonly type: 'pdf' | 'zip';
	readonly sha256: string;
	readonly bytes: Uint8Array;
	readonly idempotencyKey: string;
}

const PATIENCE = 30_000;

/** The grading portal, over its HTTP interface (docs/formats.md). */
export class Portal {
	constructor(readonly address: string) {}

	/** Hands a file in. The same key gives the same receipt, however often it is sent. */
	async submit(submission: Submission): Promise<Receipt> {
		const { assignment } = submission;
		await this.#ask(`/api/assignments/${assignment.id}`, {
			method: 'PUT',
			headers: { 'content-type': 'application/json' },
			body: JSON.stringify(assignment)
		});
		const answer = await this.#ask(`/api/assignments/${assignment.id}/submissions`, {
			method: 'POST',
			headers: {
				'content-type': submission.type === 'pdf' ? 'application/pdf' : 'application/zip',
				'idempotency-key': submission.idempotencyKey,
				// RFC 9530
				'content-digest': `sha-256=:${Buffer.from(submission.sha256, 'hex').toString('base64')}:`,
				'x-student': encodeURIComponent(submission.student),
				'x-file-name': encodeURIComponent(submission.fileName)
			},
			body: submission.bytes as BodyInit
		});
		const receipt = (await answer.json()) as Receipt;
		if (receipt.sha256 !== submission.sha256) {
			throw new RefusedError('The portal stored something other than what was sent. Hand in again.');
		}
		return receipt;
	}

	/** Takes a submission back. One that is gone already counts as taken back. */
	async recall(receiptNumber: string): Promise<void> {
		await this.#ask(`/api/submissions/${encodeURIComponent(receiptNumber)}`, { method: 'DELETE' });
	}

	async #ask(path: string, init: RequestInit): Promise<Response> {
		let response: Response;
		try {
			response = await fetch(this.address + path, { ...init, signal: AbortSignal.timeout(PATIENCE) });
		} catch {
			throw new UnreachableError('The grading portal does not answer.');
		}
		if (response.ok) return response;
		const { message } = (await response.json().catch(() => ({}))) as { message?: string };
		if (response.status >= 500 || response.status === 429) {
			throw new UnreachableError(`The grading portal has trouble (${response.status}).`);
		}
		throw new RefusedError(message ?? `The grading portal said no (${response.status}).`);
	}
}
