import { readdir, rm, stat } from 'node:fs/promises';
import { basename, join } from 'node:path';
import type { Vault } from './vault';

/**
 * Removes files that nothing refers to any more, with the pictures that were made of them.
 *
 * @param gone SHA-256 of originals and made files
 * @param keys of the prepared pages that are still wanted
 * @param before milliseconds since 1970: what was written later was brought in again meanwhile, and stays
 */
export async function sweepFiles(
	vault: Vault,
	derived: string,
	gone: readonly string[],
	keys: ReadonlySet<string>,
	before: number
): Promise<void> {
	const old = async (path: string) =>
		stat(path).then(
			({ mtimeMs }) => mtimeMs < before,
			() => false
		);
	for (const sha256 of gone) {
		const path = vault.pathOf(sha256);
		if (await old(path)) await rm(path, { force: true });
	}
	const shas = new Set(gone);
	for (const name of await readdir(derived, { recursive: true })) {
		const file = basename(name);
		const sha256 = /^([0-9a-f]{64})-\d+\.jpg$/.exec(file)?.[1];
		const key = /^([0-9a-f]{16,64})\.(?:thumb\.jpg|flat\.jpg|jpg|png|g4)$/.exec(file)?.[1];
		if (!(sha256 && shas.has(sha256)) && !(key && !keys.has(key))) continue;
		const path = join(derived, name);
		if (await old(path)) await rm(path, { force: true });
	}
}

/** Removes the files of bundles that are no more. */
export async function sweepBundles(derived: string, ids: ReadonlySet<string>): Promise<void> {
	const folder = join(derived, 'bundles');
	for (const id of await readdir(folder).catch(() => [])) {
		if (!ids.has(id)) await rm(join(folder, id), { recursive: true, force: true });
	}
}
