import { formatBytes } from '../../core/rules/formatBytes';
import { plural } from '../../core/rules/finding';
import type { Database } from '../store/database';
import type { Command } from '../services/control';
import { makeBackup } from './backup';
import { checkFolder, type FolderState } from './check';

interface Heard {
	/** Told how far a check is. */
	tell?(done: number, all: number): void;
	/** Told which packets have pages that lack something now. */
	lacking?(packets: readonly string[]): void;
}

/** Does what the command line asks for, and says what came of it. */
export async function runCommand(
	db: Database,
	folder: string,
	command: Command,
	heard: Heard = {}
): Promise<string> {
	if (command.do === 'backup') {
		const { files, tables, bytes } = await makeBackup(db, folder, command.file);
		return `${command.file}: ${plural(tables.packet ?? 0, 'packet')} of ${plural(tables.person ?? 0, 'person', 'people')}, ${plural(files, 'file')}, ${formatBytes(bytes)}.`;
	}
	const state = await checkFolder(db, folder, { backup: command.file, tell: heard.tell });
	heard.lacking?.(state.packets);
	const { files, missing, damaged } = state;
	const mended = mendedOf(state);
	if (missing.length + damaged.length === 0)
		return [`${plural(files, 'file')} read; every one is what it should be.`, ...mended].join('\n');
	const named = [
		...missing.map((sha256) => `missing ${sha256}`),
		...damaged.map((sha256) => `damaged ${sha256}`)
	];
	const advice = command.file
		? 'They are not in that backup. Give another one.'
		: 'Give a backup that holds them, and they are taken from it: ./membrana check BACKUP';
	throw new Error(
		[
			`Of ${plural(files, 'file')}, ${missing.length} are missing and ${damaged.length} damaged:`,
			...named,
			...mended,
			advice
		].join('\n')
	);
}

function mendedOf({ restored, pictures, bundles, leftovers }: FolderState): string[] {
	return [
		restored && `${plural(restored, 'file')} taken from the backup.`,
		pictures &&
			`${plural(pictures, 'page')} had lost ${pictures === 1 ? 'its' : 'their'} pictures; they are made again.`,
		bundles &&
			`${plural(bundles, 'bundle')} had lost files; make ${bundles === 1 ? 'it' : 'them'} again on the assignment’s page of bundles.`,
		leftovers && `${plural(leftovers, 'beginning')} of files that nobody finishes removed.`
	].filter((line) => line !== 0);
}
