import { error } from '@sveltejs/kit';

/** What cannot be done, with a sentence that says what to do; the answer to a request has its status. */
export class SaidError extends Error {
	constructor(
		readonly status: 404 | 409 | 413 | 422,
		message: string
	) {
		super(message);
		this.name = 'SaidError';
	}
}

/** Answers a request with the sentence where its work says one. */
export async function orSay<T>(work: Promise<T>): Promise<T> {
	try {
		return await work;
	} catch (reason) {
		if (reason instanceof SaidError) error(reason.status, reason.message);
		throw reason;
	}
}
