import { closeSync, fsyncSync, openSync } from 'node:fs';
import { open, readdir, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { NodeFS } from '@electric-sql/pglite/nodefs';

/** What is used here of Emscripten's file system on a folder, which has no `fsync` of its own. */
interface FolderFileSystem {
	readonly stream_ops: { fsync?: (stream: Stream) => number };
	realPath(node: unknown): string;
}

interface Stream {
	/** The file's descriptor; a folder has none. */
	readonly nfd?: number;
	readonly node: unknown;
}

/**
 * A folder in which PostgreSQL's fsync reaches the disk. PGlite's own leaves it out, so that a power cut could take back
 * what was acknowledged, and leave a checkpoint without the pages that it speaks of.
 */
export class DurableFolder extends NodeFS {
	override async init(...given: Parameters<NodeFS['init']>): ReturnType<NodeFS['init']> {
		const { emscriptenOpts } = await super.init(...given);
		const withSync = (module: unknown) => {
			const { NODEFS } = module as { NODEFS: FolderFileSystem };
			NODEFS.stream_ops.fsync = (stream) => {
				if (stream.nfd !== undefined) fsyncSync(stream.nfd);
				else syncPath(NODEFS.realPath(stream.node));
				return 0;
			};
		};
		return { emscriptenOpts: { ...emscriptenOpts, preRun: [...(emscriptenOpts.preRun ?? []), withSync] } };
	}
}

function syncPath(path: string): void {
	const descriptor = openSync(path, 'r');
	try {
		fsyncSync(descriptor);
	} finally {
		closeSync(descriptor);
	}
}

/** Brings a folder, with all that lies below it, to the disk. */
export async function syncFolder(folder: string): Promise<void> {
	for (const entry of await readdir(folder, { withFileTypes: true })) {
		const path = join(folder, entry.name);
		if (entry.isDirectory()) await syncFolder(path);
		else if (entry.isFile()) await syncFile(path);
	}
	await syncFile(folder);
}

/** Brings a file's bytes, or a folder's list of names, to the disk. */
export async function syncFile(path: string): Promise<void> {
	const file = await open(path, 'r');
	try {
		await file.sync();
	} finally {
		await file.close();
	}
}

/** Puts an unpacked folder in its place, on the disk for good. */
export async function settle(unpacked: string, folder: string): Promise<void> {
	await syncFolder(unpacked);
	await rm(folder, { recursive: true, force: true });
	await rename(unpacked, folder);
	await syncFile(dirname(folder));
}

/** Whether a folder is not there, or holds nothing. */
export async function isEmptyFolder(folder: string): Promise<boolean> {
	const names = await readdir(folder).catch((error: NodeJS.ErrnoException) => {
		if (error.code === 'ENOENT') return [];
		throw error;
	});
	return names.length === 0;
}
