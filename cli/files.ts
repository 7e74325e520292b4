import { rmSync } from 'node:fs';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { sniff } from '../src/lib/server/codec/sniff';
import { unpackZip } from '../src/lib/server/codec/zipIn';

export interface InputFile {
	readonly path: string;
	/** As it stands in the output: the file's name, for one out of a ZIP `ZIP/NAME`. */
	readonly name: string;
}

/** A file itself, or the files in it when it is a ZIP. @throws SourceError */
export async function filesIn(path: string): Promise<InputFile[]> {
	if ((await sniff(path)) !== 'zip') return [{ path, name: basename(path) }];
	const folder = await mkdtemp(join(tmpdir(), 'membrana-zip-'));
	process.once('exit', () => rmSync(folder, { recursive: true, force: true }));
	const unpacked = await unpackZip(path, folder);
	return unpacked.map((file) => ({ path: file.path, name: `${basename(path)}/${file.name}` }));
}
