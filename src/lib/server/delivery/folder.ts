import { createHash } from 'node:crypto';
import { link, mkdir, open, readFile, rename, rm, stat } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { safeName } from '../../core/naming/namePattern';
import type { Receipt } from '../store/deliveries';
import {
	RefusedError,
	UnreachableError,
	type Submission,
	type PortalAssignment,
	type Recalled,
	type Target
} from './target';

/** A folder on this machine, such as a school's share: one folder a course and assignment, one file a delivery. */
export class Folder implements Target {
	readonly name = 'folder';
	readonly confirms = 'received';
	readonly knowsKeys = true;

	constructor(readonly root: string) {}

	async deliver(submission: Submission): Promise<Receipt> {
		const { assignment } = submission;
		const folder = this.#folderOf(assignment);
		try {
			await mkdir(folder, { recursive: true });
			const path = await this.#place(folder, submission);
			const kept = await readFile(path);
			const sha256 = createHash('sha256').update(kept).digest('hex');
			if (sha256 !== submission.sha256)
				throw new RefusedError('The folder holds something else than was sent.');
			return {
				number: path.slice(this.root.length + 1),
				receivedAt: (await stat(path)).mtime.toISOString(),
				sha256,
				bytes: kept.length,
				late: assignment.due !== null && Date.now() > Date.parse(assignment.due)
			};
		} catch (error) {
			if (error instanceof RefusedError) throw error;
			throw new UnreachableError(`The folder cannot be written: ${(error as Error).message}`);
		}
	}

	/** Also what lies there although nobody heard of it: the process may have died in between. */
	async recall({ receipt, assignment, fileName, sha256 }: Recalled): Promise<void> {
		try {
			if (receipt) return await rm(join(this.root, receipt.number), { force: true });
			for (const path of namesFor(this.#folderOf(assignment), fileName)) {
				const there = await isSame(path, sha256);
				if (there === null) return;
				if (there) return await rm(path, { force: true });
			}
		} catch (error) {
			throw new UnreachableError(`The folder cannot be written: ${(error as Error).message}`);
		}
	}

	#folderOf({ course, title }: Pick<PortalAssignment, 'course' | 'title'>): string {
		return join(this.root, ...[course, title].filter((name) => name.trim() !== '').map(safeName));
	}

	/**
	 * Puts the file there whole or not at all: in the place of the one that it replaces, else beside whatever has its name
	 * already.
	 */
	async #place(folder: string, submission: Submission): Promise<string> {
		const mark = createHash('sha256').update(submission.key).digest('hex').slice(0, 12);
		const temporary = join(folder, `.${mark}.part`);
		const file = await open(temporary, 'w');
		try {
			await file.writeFile(submission.bytes);
			await file.sync();
		} finally {
			await file.close();
		}
		try {
			const before = submission.replaces && join(this.root, submission.replaces.number);
			const stands = before !== null && (await isSame(before, submission.replaces!.sha256)) === true;
			if (stands && [...namesFor(folder, submission.fileName)].includes(before)) {
				await rename(temporary, before);
				return before;
			}
			for (const path of namesFor(folder, submission.fileName)) {
				// A link is made whole or not at all, and never over another file.
				const made = await link(temporary, path).then(
					() => true,
					(error: NodeJS.ErrnoException) => {
						if (error.code === 'EEXIST') return false;
						throw error;
					}
				);
				if (!made && !(await isSame(path, submission.sha256))) continue;
				// The one that it replaces had another name: it goes once the new one is there.
				if (stands && before !== path) await rm(before, { force: true });
				return path;
			}
		} finally {
			await rm(temporary, { force: true });
		}
		throw new RefusedError('A thousand files have this name already.');
	}
}

/** A name and those with a number behind it, as files of one name stand side by side. */
function* namesFor(folder: string, fileName: string): Generator<string> {
	const dot = fileName.lastIndexOf('.');
	const [stem, extension] = [fileName.slice(0, dot), fileName.slice(dot)];
	yield join(folder, basename(fileName));
	for (let i = 2; i < 1000; i++) yield join(folder, basename(`${stem} (${i})${extension}`));
}

/** Whether a file holds what has this SHA-256; null where there is no file. */
async function isSame(path: string, sha256: string): Promise<boolean | null> {
	const bytes = await readFile(path).catch((error: NodeJS.ErrnoException) => {
		if (error.code === 'ENOENT') return null;
		throw error;
	});
	return bytes && createHash('sha256').update(bytes).digest('hex') === sha256;
}
