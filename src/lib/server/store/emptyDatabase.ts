import { access, mkdir, readFile, readdir, rename, rm, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { gunzipSync } from 'node:zlib';
import { extract } from 'tar-stream';
import { emptyDatabase } from 'virtual:empty-database';
import { syncFile, syncFolder } from './durableFolder';
import { nodeBuild } from './nodeBuild';

/**
 * Lays an empty database into a folder in which there is none yet: whole and on the disk, or not at all.
 *
 * @throws Error where there is something else in the folder
 */
export async function layEmptyDatabase(folder: string): Promise<void> {
	if (await exists(join(folder, 'PG_VERSION'))) return;
	const others = await readdir(folder).catch(() => []);
	if (others.length > 0) {
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
	await syncFolder(part);
	await rename(part, folder);
	await syncFile(dirname(folder));
}

function exists(path: string): Promise<boolean> {
	return access(path).then(
		() => true,
		() => false
	);
}
