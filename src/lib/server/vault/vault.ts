import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { access, mkdir, readdir, rename, rm } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Readable, Transform } from 'node:stream';
import { syncFile } from '../store/durableFolder';

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
			await syncFile(temporary);
			const sha256 = hash.digest('hex');
			const path = this.pathOf(sha256);
			const made = await mkdir(dirname(path), { recursive: true });
			await rename(temporary, path);
			await syncFile(dirname(path));
			// The name of a folder is on the disk only with the folder that it stands in.
			if (made) await syncFile(this.folder);
			return { sha256, bytes };
		} catch (error) {
			await rm(temporary, { force: true });
			throw error;
		}
	}

	/** The SHA-256 of every file here. */
	async list(): Promise<string[]> {
		const names = await readdir(this.folder, { recursive: true }).catch(() => []);
		return names.map((name) => basename(name)).filter((name) => /^[0-9a-f]{64}$/.test(name));
	}

	async has(sha256: string): Promise<boolean> {
		return access(this.pathOf(sha256)).then(
			() => true,
			() => false
		);
	}
}
