import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, readdir, rename, rm } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { createInterface } from 'node:readline';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { extract } from 'tar-stream';
import type { Database } from '../store/database';
import { loadDatabase, type DumpedTable } from '../store/dump';
import { syncFile } from '../store/durableFolder';
import { migrationsOf } from '../store/applyMigrations';
import { migrate, MIGRATIONS } from '../store/migrate';
import { Vault } from '../vault/vault';
import type { BackupEnd, BackupHead } from './backup';

/** Why a backup cannot be restored, as a sentence. */
export class RestoreError extends Error {
	constructor(message: string) {
		super(message);
		this.name = 'RestoreError';
	}
}

/**
 * Unpacks a backup into a folder beside the one that it becomes, reading every file's SHA-256.
 * @param into a folder that is not there yet; after an error it is not there either
 * @throws RestoreError
 */
export async function unpackBackup(path: string, into: string): Promise<BackupEnd & BackupHead> {
	await mkdir(join(into, 'rows'), { recursive: true });
	let head: BackupHead | null = null;
	let end: BackupEnd | null = null;
	let files = 0;
	const vault = new Vault(join(into, 'vault'));
	const take = async (name: string, content: Readable): Promise<void> => {
		if (head === null && name !== 'membrana-backup.json')
			throw new RestoreError('This is no backup of Membrana.');
		if (name === 'membrana-backup.json') head = headIn(await textOf(content));
		else if (name === 'end.json') end = JSON.parse(await textOf(content)) as BackupEnd;
		else if (name === 'signing-key.pem') {
			await pipeline(content, createWriteStream(join(into, name), { mode: 0o600 }));
		} else if (/^database\/[a-z_]+\.jsonl$/.test(name)) {
			await pipeline(content, createWriteStream(join(into, 'rows', basename(name, '.jsonl'))));
		} else if (/^vault\/[0-9a-f]{64}$/.test(name)) {
			await takeFile(vault, basename(name), content);
			files++;
		} else
			throw new RestoreError(`There is something in this backup that this version does not know: ${name}.`);
	};
	try {
		await eachEntry(path, take);
		if (!head) throw new RestoreError('This is no backup of Membrana.');
		const last = end as BackupEnd | null;
		if (!last || last.files !== files) throw new RestoreError(CUT_SHORT);
		return { ...(head as BackupHead), ...last };
	} catch (error) {
		await rm(into, { recursive: true, force: true });
		throw error;
	}
}

/**
 * Reads a backup from its beginning to its end; each entry is taken before the next one comes.
 * @throws RestoreError where it is none, or not whole
 */
async function eachEntry(
	path: string,
	take: (name: string, content: Readable) => Promise<void>
): Promise<void> {
	const tar = extract();
	tar.on('entry', (header, content, next) => {
		// An entry that nobody reads at the moment says so too where the file ends: `pipeline` hears of it.
		content.on('error', () => undefined);
		take(header.name, content as unknown as Readable).then(
			() => next(),
			(error: Error) => tar.destroy(error)
		);
	});
	try {
		await pipeline(createReadStream(path), tar);
	} catch (error) {
		if (error instanceof RestoreError) throw error;
		const { code, message } = error as NodeJS.ErrnoException;
		if (code === 'ENOENT') throw new RestoreError(`There is no file ${path}.`);
		// What the tar reader says of a file that ends in the middle of an entry, or that is no tar at all.
		if (/unexpected end|premature/i.test(message)) throw new RestoreError(CUT_SHORT);
		if (/invalid tar/i.test(message))
			throw new RestoreError('This is no backup of Membrana, or it is damaged.');
		throw error;
	}
}

/**
 * Takes single files out of a backup, in place of those that are lost or damaged.
 * @returns the SHA-256 of those that were in it
 * @throws RestoreError
 */
export async function takeFromBackup(
	path: string,
	wanted: ReadonlySet<string>,
	vault: Vault
): Promise<Set<string>> {
	const taken = new Set<string>();
	await eachEntry(path, async (name, content) => {
		const sha256 = /^vault\/([0-9a-f]{64})$/.exec(name)?.[1];
		if (!sha256 || !wanted.has(sha256)) {
			for await (const chunk of content) void chunk;
			return;
		}
		await takeFile(vault, sha256, content);
		// A whole restored folder is brought to the disk at once; this one is in use.
		const kept = vault.pathOf(sha256);
		await syncFile(kept);
		await syncFile(dirname(kept));
		taken.add(sha256);
	});
	return taken;
}

const CUT_SHORT = 'This backup was cut short: its end is missing. Use another one, or copy it again.';

function headIn(text: string): BackupHead {
	const head = JSON.parse(text) as BackupHead;
	const newer = head.format !== 1 || head.migrations.some((name) => !MIGRATIONS.includes(name));
	if (newer)
		throw new RestoreError('This backup is of a newer version of Membrana. Install that version first.');
	return head;
}

async function takeFile(vault: Vault, sha256: string, content: Readable): Promise<void> {
	const path = vault.pathOf(sha256);
	const part = `${path}.part`;
	await mkdir(join(path, '..'), { recursive: true });
	const hash = createHash('sha256');
	const look = new Transform({
		transform(chunk: Buffer, _, done) {
			hash.update(chunk);
			done(null, chunk);
		}
	});
	await pipeline(content, look, createWriteStream(part));
	if (hash.digest('hex') !== sha256) {
		await rm(part);
		throw new RestoreError(`The file ${sha256.slice(0, 12)} … in this backup is damaged.`);
	}
	await rename(part, path);
}

async function textOf(content: Readable): Promise<string> {
	const chunks: Buffer[] = [];
	for await (const chunk of content) chunks.push(chunk as Buffer);
	return Buffer.concat(chunks).toString('utf8');
}

/**
 * Fills an empty database with the rows of an unpacked backup, and brings it up to this version.
 * @throws RestoreError where the database is not empty
 */
export async function fillDatabase(
	db: Database,
	unpacked: string,
	migrations: readonly string[]
): Promise<void> {
	if ((await migrationsOf(db)).length > 0) {
		throw new RestoreError('There is something in this database already. Restore into an empty one.');
	}
	await migrate(db, migrations);
	await loadDatabase(db, tablesIn(join(unpacked, 'rows')));
	await migrate(db);
	await rm(join(unpacked, 'rows'), { recursive: true });
}

async function* tablesIn(folder: string): AsyncIterable<DumpedTable> {
	for (const name of (await readdir(folder)).sort()) {
		yield {
			name,
			rows: () => createInterface({ input: createReadStream(join(folder, name)), crlfDelay: Infinity })
		};
	}
}
