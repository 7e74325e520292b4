import { holdsStorable } from '../../core/text/storable';

/** Bytes that the body of a request may have, by route; null: any number. What is not here takes the usual few. */
const LIMITS: Readonly<Record<string, number | null>> = {
	'/sign-in': 4_000,
	'/api/packets/[id]/changes': 256_000,
	'/api/assignments': 256_000,
	'/api/assignments/[id]': 256_000,
	// Bytes of files: they are streamed, and have limits of their own (vault/uploads.ts).
	'/api/uploads/[...path]': null,
	// It has a limit of its own (papers/papers.ts).
	'/api/papers': null,
	// So has a roster (roster/bringRoster.ts).
	'/api/courses/[id]/roster': null,
	'/api/school/roster': null
};
const USUAL = 16_000;
const WITH_BODY = new Set(['POST', 'PUT', 'PATCH', 'DELETE']);

/** A request that goes no further, with a sentence for whoever sent it. */
export class NotAdmittedError extends Error {
	constructor(
		readonly status: 400 | 413,
		message: string
	) {
		super(message);
		this.name = 'NotAdmittedError';
	}
}

/**
 * The one door for what comes from outside. Nothing longer than its route takes is read to its end, and no text that a
 * database cannot hold gets past, in address or body.
 *
 * @param routeId as SvelteKit names it; null where no route fits
 * @returns the request to go on with: its body has been read
 * @throws NotAdmittedError
 */
export async function admit(request: Request, routeId: string | null): Promise<Request> {
	if (/%00|\0/.test(request.url)) throw new NotAdmittedError(400, 'This address cannot be understood.');
	const limit = routeId !== null && Object.hasOwn(LIMITS, routeId) ? (LIMITS[routeId] ?? null) : USUAL;
	if (limit === null || !WITH_BODY.has(request.method) || !request.body) return request;
	const bytes = await readAtMost(request, limit);
	const text = new TextDecoder().decode(bytes);
	if (!isStorableBody(text)) {
		throw new NotAdmittedError(400, 'There are characters in this that cannot be kept. Take them out.');
	}
	const { url, method, headers, signal } = request;
	return new Request(url, { method, headers, signal, body: bytes as BodyInit });
}

async function readAtMost(request: Request, limit: number): Promise<Uint8Array> {
	const tooLong = () =>
		new NotAdmittedError(413, `This is too long: at most ${limit / 1000} thousand bytes are taken here.`);
	if (Number(request.headers.get('content-length') ?? 0) > limit) throw tooLong();
	const chunks: Uint8Array[] = [];
	let length = 0;
	const reader = request.body!.getReader();
	for (;;) {
		const { done, value } = (await reader.read()) as ReadableStreamReadResult<Uint8Array>;
		if (done) break;
		length += value.length;
		if (length > limit) {
			await reader.cancel().catch(() => undefined);
			throw tooLong();
		}
		chunks.push(value);
	}
	return Buffer.concat(chunks);
}

/** In JSON, NUL and halves of pairs can only stand as escapes; in forms, NUL as `%00` or as itself. */
function isStorableBody(text: string): boolean {
	if (/\0|%00/.test(text)) return false;
	if (!/\\u(0000|d[89a-f])/i.test(text)) return true;
	try {
		return holdsStorable(JSON.parse(text));
	} catch {
		return true;
	}
}
