import { mkdir, open } from 'node:fs/promises';
import { join } from 'node:path';
import { tryLock } from 'fs-native-extensions';

/** Another process has this data folder open. */
export class FolderInUseError extends Error {
	constructor(folder: string) {
		super(
			`Another Membrana is already running on the data folder ${folder}. ` +
				'Stop it first, or set MEMBRANA_DATA to another folder.'
		);
		this.name = 'FolderInUseError';
	}
}

/**
 * Takes the data folder for this process alone. Two processes on one PGlite folder lose data without
 * a word, so this comes before the database is opened. The kernel holds the lock and gives it back when the process
 * ends, however it ends; what the file says is for people.
 *
 * @returns how to let go again
 * @throws FolderInUseError
 */
export async function lockFolder(folder: string): Promise<() => Promise<void>> {
	await mkdir(folder, { recursive: true });
	const file = await open(join(folder, 'in-use.lock'), 'a+');
	if (!tryLock(file.fd)) {
		await file.close();
		throw new FolderInUseError(folder);
	}
	await file.truncate(0);
	await file.write(`Held by process ${process.pid} since ${new Date().toISOString()}.\n`);
	return () => file.close();
}
