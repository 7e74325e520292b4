import { createHash } from 'node:crypto';
import { readdir, rm, stat } from 'node:fs/promises';
import { createReadStream } from 'node:fs';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { Database } from '../store/database';
import { forgetBundles, readyBundles } from '../store/bundles';
import { forgetPrepared, preparedPictures } from '../store/prepared';
import { referredFiles } from '../store/sources';
import { areThere, bundlePath, hasPictures } from '../vault/derived';
import { Vault } from '../vault/vault';
import { takeFromBackup } from './restore';

/** What is wrong with the files of a folder, and what was mended. */
export interface FolderState {
	readonly files: number;
	/** Files that rows name and that are not there. */
	readonly missing: readonly string[];
	/** Files whose bytes are not those that their name says. */
	readonly damaged: readonly string[];
	/** Files taken out of a backup. */
	readonly restored: number;
	/** Pages whose pictures were gone, and are made again. */
	readonly pictures: number;
	/** Bundles and bags whose files were gone; they can be made again. */
	readonly bundles: number;
	/** Beginnings of files that nobody finishes any more. */
	readonly leftovers: number;
	/** Packets whose pages lack something now. */
	readonly packets: readonly string[];
}

/** Milliseconds after which the beginning of a file is finished by nobody. */
const ABANDONED = 24 * 3_600_000;

/**
 * Reads every file that the database refers to and compares it with its SHA-256; mends what can be mended without
 * anybody's decision.
 *
 * @param backup file to take missing and damaged files from
 * @throws RestoreError where that file is no backup, or not whole; what was taken out of it before stays
 */
export async function checkFolder(
	db: Database,
	folder: string,
	{ backup, tell = () => {} }: { backup?: string; tell?: (done: number, all: number) => void } = {}
): Promise<FolderState> {
	const vault = new Vault(join(folder, 'vault'));
	const derived = join(folder, 'derived');
	const named = [...(await referredFiles(db))].sort();
	let [missing, damaged]: [string[], string[]] = [[], []];
	for (const [i, sha256] of named.entries()) {
		const found = await hashOf(vault.pathOf(sha256));
		if (found === null) missing.push(sha256);
		else if (found !== sha256) damaged.push(sha256);
		tell(i + 1, named.length);
	}
	let restored = 0;
	if (backup && missing.length + damaged.length > 0) {
		const taken = await takeFromBackup(backup, new Set([...missing, ...damaged]), vault);
		const isLeft = (sha256: string) => !taken.has(sha256);
		[missing, damaged] = [missing.filter(isLeft), damaged.filter(isLeft)];
		restored = taken.size;
	}
	const { pictures, packets } = await forgetLostPictures(db, derived);
	const bundles = await forgetLostBundles(db, derived);
	const leftovers = (await removeParts(vault.folder)) + (await removeParts(derived));
	return { files: named.length, missing, damaged, restored, pictures, bundles, leftovers, packets };
}

async function forgetLostPictures(
	db: Database,
	derived: string
): Promise<Pick<FolderState, 'pictures' | 'packets'>> {
	let pictures = 0;
	const packets = new Set<string>();
	for (const { key, tone } of await preparedPictures(db)) {
		if (await hasPictures(derived, key, tone)) continue;
		for (const id of await forgetPrepared(db, key)) packets.add(id);
		pictures++;
	}
	return { pictures, packets: [...packets] };
}

async function forgetLostBundles(db: Database, derived: string): Promise<number> {
	const lost: string[] = [];
	for (const { id, files } of await readyBundles(db)) {
		if (!(await areThere(files.map((name) => join(bundlePath(derived, id), name))))) lost.push(id);
	}
	await forgetBundles(db, lost);
	return lost.length;
}

async function removeParts(folder: string): Promise<number> {
	let removed = 0;
	for (const name of await readdir(folder, { recursive: true }).catch(() => [])) {
		if (!/\.(part|made)$/.test(name)) continue;
		const path = join(folder, name);
		const at = (await stat(path).catch(() => null))?.mtimeMs;
		if (at === undefined || at > Date.now() - ABANDONED) continue;
		await rm(path, { force: true });
		removed++;
	}
	return removed;
}

async function hashOf(path: string): Promise<string | null> {
	const hash = createHash('sha256');
	try {
		await pipeline(createReadStream(path), hash);
	} catch (error) {
		if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
		throw error;
	}
	return hash.digest('hex');
}
