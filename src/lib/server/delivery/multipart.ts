import { randomUUID } from 'node:crypto';

interface Part {
	readonly name: string;
	readonly type: string;
	readonly bytes: Buffer;
}

/** Several parts as one body (RFC 7578), in one piece, so that its length is known before it is sent. */
export function multipart(parts: readonly Part[]): { readonly contentType: string; readonly body: Buffer } {
	const boundary = `membrana-${randomUUID()}`;
	const pieces = parts.flatMap(({ name, type, bytes }) => [
		Buffer.from(
			`--${boundary}\r\ncontent-disposition: form-data; name="${name}"; filename="${name}"\r\ncontent-type: ${type}\r\n\r\n`
		),
		bytes,
		Buffer.from('\r\n')
	]);
	const body = Buffer.concat([...pieces, Buffer.from(`--${boundary}--\r\n`)]);
	return { contentType: `multipart/form-data; boundary=${boundary}`, body };
}
