import type { Column, Columns } from './columns';
import {
	isMail,
	textProblem,
	type Roster,
	type RosterEntry,
	type RosterPlace,
	type RosterRole,
	type RowProblem,
	type Table
} from './roster';

/** The identifier by which the one course of a list is called. */
export const THIS_COURSE = '';

/**
 * The people of one course's list.
 * @param columns what each column holds (columns.ts)
 */
export function rosterOfList(table: Table, columns: Columns, titled: boolean): Roster {
	const people: RosterEntry[] = [];
	const places: RosterPlace[] = [];
	const problems: RowProblem[] = [];
	const seen = new Map<string, number>();
	for (const { line, cells } of table.rows.slice(titled ? 1 : 0)) {
		const cell = (column: Column) => {
			const at = columns.indexOf(column);
			return at < 0 ? '' : (cells[at] ?? '').normalize('NFC').replace(/\s+/g, ' ').trim();
		};
		if (cells.every((text) => text.trim() === '')) continue;
		const row = readRow(cell);
		if (typeof row === 'string') {
			problems.push({ file: table.name, line, reason: row });
			continue;
		}
		const { entry, role } = row;
		const before = [entry.identifier && `number ${entry.identifier}`, entry.email && `address ${entry.email}`]
			.filter((mark) => mark !== null)
			.map((mark) => [mark, seen.get(mark.toLowerCase())] as const)
			.find(([, line]) => line !== undefined);
		if (before) {
			problems.push({
				file: table.name,
				line,
				reason: `The ${before[0]} stands in line ${before[1]} already.`
			});
			continue;
		}
		if (seen.has(entry.key)) {
			problems.push({
				file: table.name,
				line,
				reason: `${entry.given} ${entry.family} stands in line ${seen.get(entry.key)} already. If they are two people, add a column with their numbers or mail addresses.`
			});
			continue;
		}
		if (entry.identifier) seen.set(`number ${entry.identifier}`.toLowerCase(), line);
		if (entry.email) seen.set(`address ${entry.email}`.toLowerCase(), line);
		seen.set(entry.key, line);
		people.push(entry);
		places.push({ course: THIS_COURSE, person: entry.key, role });
	}
	return { people, courses: [], places, problems };
}

function readRow(
	cell: (column: Column) => string
): { readonly entry: RosterEntry; readonly role: RosterRole } | string {
	const { given, family } = cell('name')
		? splitName(cell('name'))
		: { given: cell('given'), family: cell('family') };
	if (!given && !family) return 'There is no name in this row.';
	for (const text of [given, family, cell('identifier'), cell('login')]) {
		const wrong = textProblem(text);
		if (wrong) return `${wrong[0]!.toUpperCase()}${wrong.slice(1)}.`;
	}
	const email = cell('email').toLowerCase() || null;
	if (email && !isMail(email)) return `“${email.slice(0, 60)}” is not a mail address.`;
	const role = roleOf(cell('role'));
	if (!role) return `“${cell('role').slice(0, 40)}” is neither student nor teacher.`;
	const identifier = cell('identifier') || null;
	const key = identifier ?? email ?? `${given} ${family}`.toLowerCase();
	return {
		entry: { key, identifier, given, family, email, login: cell('login').toLowerCase() || null },
		role
	};
}

function roleOf(text: string): RosterRole | null {
	if (text === '' || /^(student|pupil|learner)s?$/i.test(text)) return 'student';
	return /^(teacher|instructor|lecturer|tutor)s?$/i.test(text) ? 'teacher' : null;
}

/** "Brandsma, Ilka" and "Ilka Brandsma"; particles go with the family name: "Anna van der Veen". */
export function splitName(name: string): { readonly given: string; readonly family: string } {
	const comma = /^([^,]+),\s*(.+)$/.exec(name);
	if (comma) return { family: comma[1]!.trim(), given: comma[2]!.trim() };
	const words = name.split(/\s+/);
	if (words.length === 1) return { given: '', family: name };
	const particle = words.findIndex(
		(word, i) => i > 0 && /^(van|von|de|der|den|da|del|di|la|le|bin|ibn|ter|ten|al)$/.test(word)
	);
	const at = particle > 0 ? particle : words.length - 1;
	return { given: words.slice(0, at).join(' '), family: words.slice(at).join(' ') };
}
