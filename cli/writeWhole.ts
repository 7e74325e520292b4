import { rename, writeFile } from 'node:fs/promises';

/** Writes a file that is there as a whole or not at all. */
export async function writeWhole(path: string, bytes: Uint8Array): Promise<void> {
	await writeFile(`${path}.part`, bytes);
	await rename(`${path}.part`, path);
}
