import { randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { appendFile, mkdir, readFile, rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { pack, type Pack } from 'tar-stream';
import type { Database } from '../store/database';
import { dumpDatabase } from '../store/dump';
import { migrationsOf } from '../store/applyMigrations';
import { syncFile } from '../store/durableFolder';
import { Vault } from '../vault/vault';

/** What stands first in a backup. */
export interface BackupHead {
	readonly format: 1;
	/** ISO 8601. */
	readonly madeAt: string;
	/** Migrations that its database has seen. */
	readonly migrations: readonly string[];
}

/** What stands last: without it, the file was cut short. */
export interface BackupEnd {
	readonly files: number;
	readonly tables: Readonly<Record<string, number>>;
}

export interface BackupMade extends BackupEnd {
	readonly bytes: number;
}

/**
 * Writes the database, as it is at one moment, and every file that it refers to into one tar file. Files of the vault are
 * written before their rows and never changed, so that what the rows of that moment name is there.
 *
 * @param folder the data folder
 * @param path of the file, which is there whole or not at all
 * @param files whether the vault goes in as well; without it, it is a copy of the database alone
 */
export async function makeBackup(
	db: Database,
	folder: string,
	path: string,
	{ files = true } = {}
): Promise<BackupMade> {
	const scratch = `${path}.${randomUUID()}`;
	const part = `${scratch}.part`;
	await mkdir(scratch, { recursive: true });
	try {
		const migrations = await migrationsOf(db);
		const tables: Record<string, number> = {};
		await dumpDatabase(db, async (table, rows) => {
			tables[table] = (tables[table] ?? 0) + rows.length;
			await appendFile(join(scratch, table), rows.map((row) => `${row}\n`).join(''));
		});
		const tar = pack();
		const written = pipeline(tar, createWriteStream(part));
		const head: BackupHead = { format: 1, madeAt: new Date().toISOString(), migrations };
		const filled = (async () => {
			await put(tar, 'membrana-backup.json', Buffer.from(JSON.stringify(head)));
			for (const table of Object.keys(tables))
				await putFile(tar, `database/${table}.jsonl`, join(scratch, table));
			let count = 0;
			if (files) {
				const key = join(folder, 'signing-key.pem');
				await put(tar, 'signing-key.pem', await readFile(key));
				const vault = new Vault(join(folder, 'vault'));
				for (const sha256 of await filesNamed(scratch)) {
					await putFile(tar, `vault/${sha256}`, vault.pathOf(sha256));
					count++;
				}
			}
			const end: BackupEnd = { files: count, tables };
			await put(tar, 'end.json', Buffer.from(JSON.stringify(end)));
			tar.finalize();
			return end;
		})();
		filled.catch((error: Error) => tar.destroy(error));
		await written;
		const end = await filled;
		await syncFile(part);
		await rename(part, path);
		await syncFile(dirname(path));
		return { ...end, bytes: (await stat(path)).size };
	} finally {
		await rm(scratch, { recursive: true, force: true });
		await rm(part, { force: true });
	}
}

/** The files that the dumped rows name: originals and made files. */
async function filesNamed(scratch: string): Promise<string[]> {
	const named = new Set<string>();
	for (const table of ['source', 'file']) {
		for (const line of (await readFile(join(scratch, table), 'utf8')).split('\n')) {
			const sha256 = line && (JSON.parse(line) as { sha256: string | null }).sha256;
			if (sha256) named.add(sha256);
		}
	}
	return [...named].sort();
}

function put(tar: Pack, name: string, bytes: Buffer): Promise<void> {
	return new Promise((done, fail) =>
		tar.entry({ name, mode: 0o600 }, bytes, (error) => (error ? fail(error) : done()))
	);
}

async function putFile(tar: Pack, name: string, path: string): Promise<void> {
	const { size } = await stat(path);
	if (size === 0) return put(tar, name, Buffer.alloc(0));
	await pipeline(createReadStream(path, { end: size - 1 }), tar.entry({ name, size, mode: 0o600 }));
}
