import { existsSync, mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const CACHE = fileURLToPath(new URL('node_modules/.cache', import.meta.url));

/**
 * A file that takes long to make, made once and kept beside the packages that it is made from.
 *
 * @param name below the folder of such files; what it is made from is told by it
 * @returns its path
 */
export async function keptFile(
	name: `${string}/${string}`,
	make: () => Uint8Array | Promise<Uint8Array>
): Promise<string> {
	const path = join(CACHE, name);
	if (!existsSync(path)) {
		const made = await make();
		mkdirSync(dirname(path), { recursive: true });
		// Two builds may do so at the same time.
		const part = `${path}.${process.pid}`;
		writeFileSync(part, made);
		renameSync(part, path);
	}
	return path;
}
