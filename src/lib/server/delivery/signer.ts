import {
	createPrivateKey,
	createPublicKey,
	generateKeyPairSync,
	randomUUID,
	sign,
	verify,
	type KeyObject
} from 'node:crypto';
import { link, open, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { syncFile } from '../store/durableFolder';

/** A statement with the signature by which anybody can tell who made it. */
export interface Signed {
	/** The exact text that was signed. */
	readonly statement: string;
	/** Ed25519 (RFC 8032) over the statement's UTF-8 bytes, in base64. */
	readonly signature: string;
	/** The signer's public key, PEM. */
	readonly publicKey: string;
}

/** The server's own key, made at its first start and kept in the data folder. */
export class Signer {
	readonly publicKey: string;

	constructor(readonly key: KeyObject) {
		this.publicKey = createPublicKey(key).export({ type: 'spki', format: 'pem' }) as string;
	}

	static async inFolder(folder: string): Promise<Signer> {
		const path = join(folder, 'signing-key.pem');
		const there = await readFile(path, 'utf8').catch((error: NodeJS.ErrnoException) => {
			if (error.code === 'ENOENT') return null;
			throw error;
		});
		if (there !== null) return new Signer(createPrivateKey(there));
		const { privateKey } = generateKeyPairSync('ed25519');
		const temporary = `${path}.${randomUUID()}`;
		const file = await open(temporary, 'w', 0o600);
		try {
			await file.writeFile(privateKey.export({ type: 'pkcs8', format: 'pem' }));
			await file.sync();
		} finally {
			await file.close();
		}
		// Of processes that start together one is first, and its key is everybody's.
		await link(temporary, path).catch((error: NodeJS.ErrnoException) => {
			if (error.code !== 'EEXIST') throw error;
		});
		await rm(temporary);
		await syncFile(folder);
		return new Signer(createPrivateKey(await readFile(path, 'utf8')));
	}

	sign(statement: string): Signed {
		const signature = sign(null, Buffer.from(statement, 'utf8'), this.key).toString('base64');
		return { statement, signature, publicKey: this.publicKey };
	}
}

/** Whether a statement was signed with a key. False for whatever is no key or no signature. */
export function isSignedBy(publicKey: string, { statement, signature }: Omit<Signed, 'publicKey'>): boolean {
	try {
		const bytes = Buffer.from(statement, 'utf8');
		return verify(null, bytes, createPublicKey(publicKey), Buffer.from(signature, 'base64'));
	} catch {
		return false;
	}
}
