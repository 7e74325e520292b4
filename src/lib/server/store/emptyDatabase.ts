import { access, mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { gunzipSync } from 'node:zlib';
import { extract } from 'tar-stream';
import { emptyDatabase } from 'virtual:empty-database';
import { isEmptyFolder, settle } from './durableFolder';
import { nodeBuild } from './nodeBuild';

/**
 * Lays a database with all tables and nothing in them into a folder in which there is none yet: whole and on the disk,
 * or not at all.
 *
 * @returns whether it did; there may have been one
 * @throws Error where there is something else in the folder
 */
export async function layEmptyDatabase(folder: string): Promise<boolean> {
	if (await exists(join(folder, 'PG_VERSION'))) return false;
	if (!(await isEmptyFolder(folder))) {
		throw new Error(`${folder} holds files, but no database. Move them away, and start again.`);
	}
	const part = `${folder}.part`;
	await rm(part, { recursive: true, force: true });
	await mkdir(part, { recursive: true, mode: 0o700 });
	const tar = extract();
	tar.end(gunzipSync(await readFile(nodeBuild(emptyDatabase))));
	for await (const entry of tar) {
		const { name, type, mode } = entry.header;
		const path = join(part, name);
		if (type === 'directory') await mkdir(path, { recursive: true, mode });
		else await writeFile(path, await buffer(entry), { mode });
		entry.resume();
	}
	await settle(part, folder);
	return true;
}

function exists(path: string): Promise<boolean> {
	return access(path).then(
		() => true,
		() => false
	);
}
