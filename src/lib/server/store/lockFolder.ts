import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import lockfile from 'proper-lockfile';

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

const STALE = 10_000;

/**
 * Takes the data folder for this process alone. Two processes on one PGlite folder lose data without
 * a word, so this comes before the database is opened. The lock of a process that was killed is
 * taken over at once: its process number is kept beside the lock.
 *
 * @returns how to let go again
 * @throws FolderInUseError
 */
export async function lockFolder(folder: string): Promise<() => Promise<void>> {
	await mkdir(folder, { recursive: true });
	const owner = join(folder, 'owner.pid');
	const lock = join(folder, 'owner.lock');
	const options = {
		lockfilePath: lock,
		stale: STALE,
		realpath: false,
		onCompromised: (error: Error) => {
			console.error(`The lock on ${folder} was lost: ${error.message}`);
			process.exit(1);
		}
	};
	const take = () => lockfile.lock(folder, options);
	let release: () => Promise<void>;
	try {
		release = await take();
	} catch (error) {
		if ((error as NodeJS.ErrnoException).code !== 'ELOCKED') throw error;
		const pid = Number(await readFile(owner, 'utf8').catch(() => '0'));
		if (pid === 0 || isAlive(pid)) throw new FolderInUseError(folder);
		await rm(lock, { recursive: true, force: true });
		release = await take().catch(() => {
			throw new FolderInUseError(folder);
		});
	}
	await writeFile(owner, String(process.pid));
	return async () => {
		await rm(owner, { force: true });
		await release();
	};
}

function isAlive(pid: number): boolean {
	try {
		process.kill(pid, 0);
		return true;
	} catch (error) {
		return (error as NodeJS.ErrnoException).code === 'EPERM';
	}
}
