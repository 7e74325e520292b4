import { mkdir, rm } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { runCommand } from '../src/lib/server/backup/commands';
import { fillDatabase, RestoreError, unpackBackup } from '../src/lib/server/backup/restore';
import { askRunning, type Command } from '../src/lib/server/services/control';
import type { Database } from '../src/lib/server/store/database';
import { isEmptyFolder, settle } from '../src/lib/server/store/durableFolder';
import { lockFolder } from '../src/lib/server/store/lockFolder';
import { openPGlite } from '../src/lib/server/store/pglite';
import { openPostgres } from '../src/lib/server/store/postgres';

// `node build-node/keep.js backup FILE | restore FILE | check [BACKUP]`: what a data folder is kept with.

const folder = resolve(process.env.MEMBRANA_DATA ?? 'data');
const [, , command, file] = process.argv;

try {
	if (command === 'backup' && file) say(await either({ do: 'backup', file: resolve(file) }));
	else if (command === 'check') say(await either({ do: 'check', ...(file ? { file: resolve(file) } : {}) }));
	else if (command === 'restore' && file) await restore(resolve(file));
	else stop('Use: ./membrana backup FILE | restore FILE | check [BACKUP]');
} catch (error) {
	stop((error as Error).message);
}

/** Has the running Membrana do it, or, where none runs on this folder, does it here. */
async function either(command: Command): Promise<string> {
	const url = process.env.DATABASE_URL;
	const answer = url ? null : await askRunning(folder, command);
	if (answer) return answer.ok ? answer.says : stop(answer.says);
	if (!url && (await isEmptyFolder(join(folder, 'database')))) {
		return stop(`There is no Membrana in ${folder}. Set MEMBRANA_DATA to its data folder.`);
	}
	return withDatabase((db) => runCommand(db, folder, command, { tell: progress }));
}

async function withDatabase<T>(work: (db: Database) => Promise<T>, at = folder, tables = true): Promise<T> {
	const url = process.env.DATABASE_URL;
	const unlock = url ? null : await lockFolder(at);
	const db = url ? openPostgres(url) : await openPGlite(join(at, 'database'), tables);
	try {
		return await work(db);
	} finally {
		await db.close();
		await unlock?.();
	}
}

async function restore(file: string): Promise<void> {
	if (!(await isEmptyFolder(folder))) {
		throw new RestoreError(
			`There is something in ${folder} already. Restore into an empty folder: set MEMBRANA_DATA to one.`
		);
	}
	const unpacked = `${folder}.restoring`;
	await rm(unpacked, { recursive: true, force: true });
	await mkdir(unpacked, { recursive: true });
	const { migrations, files, madeAt, tables } = await unpackBackup(file, unpacked);
	try {
		await withDatabase((db) => fillDatabase(db, unpacked, migrations), unpacked, false);
		await settle(unpacked, folder);
	} catch (error) {
		await rm(unpacked, { recursive: true, force: true });
		throw error;
	}
	say(`Restored into ${folder} as it was on ${madeAt}: ${tables.packet ?? 0} packets, ${files} files.`);
}

function progress(done: number, all: number): void {
	if (process.stderr.isTTY) process.stderr.write(`\r${done} of ${all} files read${done === all ? '\n' : ''}`);
}

function say(text: string): void {
	process.stdout.write(`${text}\n`);
}

function stop(message: string): never {
	process.stderr.write(`${message}\n`);
	process.exit(1);
}
