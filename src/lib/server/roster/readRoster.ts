import { readFile } from 'node:fs/promises';
import { unzipSync } from 'fflate';
import { columnsProblem, matchColumns, type Columns } from '../../core/roster/columns';
import { rosterOfList } from '../../core/roster/list';
import { rosterOfOneRoster } from '../../core/roster/oneRoster';
import type { Roster, Table } from '../../core/roster/roster';
import { readTable, TableError } from './readTable';

/** A roster out of a file. */
export interface ReadRoster {
	readonly roster: Roster;
	/** Of a list: what each column is taken for, with what stands in the first rows; null for OneRoster. */
	readonly list: {
		readonly columns: Columns;
		readonly titled: boolean;
		readonly sample: readonly (readonly string[])[];
	} | null;
}

const SAMPLE = 4;
/** Bytes that the tables of a ZIP may have together. */
const MOST_UNPACKED = 100e6;

/**
 * Reads a list of people, or a ZIP with the tables of OneRoster.
 * @param columns what a person says the columns hold; null: told by their titles and what stands in them
 * @throws TableError
 */
export async function readRoster(path: string, columns: Columns | null): Promise<ReadRoster> {
	const bytes = await readFile(path);
	if (bytes[0] === 0x50 && bytes[1] === 0x4b) return { roster: readZip(bytes), list: null };
	const table = readTable(bytes, 'The list');
	const matched = matchColumns(table);
	const used = columns ?? matched.columns;
	const sample = table.rows.slice(0, SAMPLE).map((row) => row.cells);
	const list = { columns: used, titled: matched.titled, sample };
	const missing = columnsProblem(used);
	if (missing) {
		const problems = [{ file: table.name, line: 1, reason: missing }];
		return { roster: { people: [], courses: [], places: [], problems }, list };
	}
	return { roster: rosterOfList(table, used, matched.titled), list };
}

function readZip(bytes: Uint8Array): Roster {
	let unpacked = 0;
	let files: Record<string, Uint8Array>;
	try {
		files = unzipSync(bytes, {
			filter: ({ name, originalSize }) => {
				if (!/\.csv$/i.test(name)) return false;
				unpacked += originalSize;
				return unpacked <= MOST_UNPACKED;
			}
		});
	} catch {
		throw new TableError('This ZIP is damaged and cannot be opened. Export the roster again.');
	}
	if (unpacked > MOST_UNPACKED) throw new TableError('The tables of this ZIP are too large to be a roster.');
	const tables = new Map<string, Table>();
	for (const [path, content] of Object.entries(files)) {
		const name = path.split('/').at(-1)!.toLowerCase();
		if (content.length > 0) tables.set(name, readTable(content, name));
	}
	try {
		return rosterOfOneRoster(tables);
	} catch (error) {
		if (error instanceof RangeError) throw new TableError(error.message);
		throw error;
	}
}
