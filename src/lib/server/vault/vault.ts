import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { access, mkdir, open, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Readable, Transform } from 'node:stream';

export interface VaultEntry {
	readonly sha256: string;
	readonly bytes: number;
}

/** Files by their SHA-256, written once and never changed. */
export class Vault {
	constructor(readonly folder: string) {}

	pathOf(sha256: string): string {
		if (!/^[0-9a-f]{64}$/.test(sha256)) throw new RangeError('Not a SHA-256 in hexadecimal.');
		return join(this.folder, sha256.slice(0, 2), sha256);
	}

	/** Copies a file in. When this returns, the bytes are on disk under their final name. */
	put(path: string): Promise<VaultEntry> {
		return this.#write(createReadStream(path));
	}

	putBytes(bytes: Uint8Array): Promise<VaultEntry> {
		return this.#write(Readable.from([bytes]));
	}

	async #write(input: Readable): Promise<VaultEntry> {
		await mkdir(this.folder, { recursive: true });
		const temporary = join(this.folder, `.${randomUUID()}.part`);
		const hash = createHash('sha256');
		let bytes = 0;
		const count = new Transform({
			transform(chunk: Buffer, _, done) {
				hash.update(chunk);
				bytes += chunk.length;
				done(null, chunk);
			}
		});
		try {
			await pipeline(input, count, createWriteStream(temporary));
			await sync(temporary);
			const sha256 = hash.digest('hex');
			const path = this.pathOf(sha256);
			await mkdir(dirname(path), { recursive: true });
			await rename(temporary, path);
			await sync(dirname(path));
			return { sha256, bytes };
		} catch (error) {
			await rm(temporary, { force: true });
			throw error;
		}
	}

	async has(sha256: string): Promise<boolean> {
		return access(this.pathOf(sha256)).then(
			() => true,
			() => false
		);
	}
}

async function sync(path: string): Promise<void> {
	const file = await open(path, 'r');
	try {
		await file.sync();
	} finally {
		await file.close();
	}
}
