import { createHash } from 'node:crypto';
import { link, mkdir, open, readFile, rm, stat } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { safeName } from '../../core/naming/namePattern';
import type { Receipt } from '../store/deliveries';
import { RefusedError, UnreachableError, type Parcel, type Target } from './target';

/** A folder on this machine, such as a school's share: one folder a course and assignment, one file a delivery. */
export class Folder implements Target {
	readonly name = 'folder';
	readonly confirms = 'received';

	constructor(readonly root: string) {}

	async deliver(parcel: Parcel): Promise<Receipt> {
		const { assignment } = parcel;
		const folder = join(this.root, safeName(assignment.course), safeName(assignment.title));
		try {
			await mkdir(folder, { recursive: true });
			const path = await this.#place(folder, parcel);
			const kept = await readFile(path);
			const sha256 = createHash('sha256').update(kept).digest('hex');
			if (sha256 !== parcel.sha256) throw new RefusedError('The folder holds something else than was sent.');
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

	async recall(_key: string, receipt: Receipt | null): Promise<void> {
		if (receipt) await rm(join(this.root, receipt.number), { force: true });
	}

	/** Puts the file there whole or not at all, beside whatever has its name already. */
	async #place(folder: string, parcel: Parcel): Promise<string> {
		const mark = createHash('sha256').update(parcel.key).digest('hex').slice(0, 12);
		const temporary = join(folder, `.${mark}.part`);
		const file = await open(temporary, 'w');
		try {
			await file.writeFile(parcel.bytes);
			await file.sync();
		} finally {
			await file.close();
		}
		const dot = parcel.fileName.lastIndexOf('.');
		const [stem, extension] = [parcel.fileName.slice(0, dot), parcel.fileName.slice(dot)];
		try {
			for (let i = 1; i < 1000; i++) {
				const path = join(folder, basename(i === 1 ? parcel.fileName : `${stem} (${i})${extension}`));
				// A link is made whole or not at all, and never over another file.
				const made = await link(temporary, path).then(
					() => true,
					(error: NodeJS.ErrnoException) => {
						if (error.code === 'EEXIST') return false;
						throw error;
					}
				);
				if (made || (await isSame(path, parcel.sha256))) return path;
			}
		} finally {
			await rm(temporary, { force: true });
		}
		throw new RefusedError('A thousand files have this name already.');
	}
}

async function isSame(path: string, sha256: string): Promise<boolean> {
	return (
		createHash('sha256')
			.update(await readFile(path))
			.digest('hex') === sha256
	);
}
