import { formatBytes } from '../../core/rules/formatBytes';
import { plural } from '../../core/rules/finding';
import type { Database } from '../store/database';
import type { Command } from '../services/control';
import { checkFiles, makeBackup } from './backup';

/** Does what the command line asks for, and says what came of it. */
export async function runCommand(
	db: Database,
	folder: string,
	command: Command,
	tell?: (done: number, all: number) => void
): Promise<string> {
	if (command.do === 'backup') {
		const { files, tables, bytes } = await makeBackup(db, folder, command.file);
		return `${command.file}: ${plural(tables.packet ?? 0, 'packet')} of ${plural(tables.person ?? 0, 'person', 'people')}, ${plural(files, 'file')}, ${formatBytes(bytes)}.`;
	}
	const { files, missing, damaged } = await checkFiles(db, folder, tell);
	if (missing.length + damaged.length === 0)
		return `${plural(files, 'file')} read; every one is what it should be.`;
	const named = [
		...missing.map((sha256) => `missing ${sha256}`),
		...damaged.map((sha256) => `damaged ${sha256}`)
	];
	throw new Error(
		`Of ${plural(files, 'file')}, ${missing.length} are missing and ${damaged.length} damaged:\n${named.join('\n')}\nTake them out of a backup: in its tar file they lie under vault/.`
	);
}
