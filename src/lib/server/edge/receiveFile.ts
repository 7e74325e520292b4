import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { SaidError } from './said';

/**
 * Writes the body of a request into a file, without ever holding it whole.
 * @param most bytes that it may have
 * @returns its SHA-256
 * @throws SaidError
 */
export async function receiveFile(request: Request, path: string, most: number): Promise<string> {
	const hash = createHash('sha256');
	let bytes = 0;
	const count = new Transform({
		transform(chunk: Buffer, _, done) {
			bytes += chunk.length;
			hash.update(chunk);
			done(
				bytes > most
					? new SaidError(413, `This file is larger than the ${most / 1e6} MB it may have.`)
					: null,
				chunk
			);
		}
	});
	if (request.body) await pipeline(Readable.fromWeb(request.body as never), count, createWriteStream(path));
	if (bytes === 0) throw new SaidError(422, 'There is nothing in this file.');
	return hash.digest('hex');
}
