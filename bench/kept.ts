import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deserialize, serialize } from 'node:v8';

/**
 * What takes long to make, kept in a folder for temporary files under what it is made from.
 *
 * @param make is given a path there that nothing else uses, for files on the way
 */
export async function kept<T>(name: string, from: unknown, make: (path: string) => Promise<T>): Promise<T> {
	const folder = join(tmpdir(), name);
	mkdirSync(folder, { recursive: true });
	const file = join(folder, createHash('sha256').update(JSON.stringify(from)).digest('hex').slice(0, 16));
	if (existsSync(file)) return deserialize(readFileSync(file)) as T;
	const made = await make(file);
	writeFileSync(file, serialize(made));
	return made;
}
