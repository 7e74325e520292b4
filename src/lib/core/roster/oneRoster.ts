import {
	isMail,
	textProblem,
	type Roster,
	type RosterCourse,
	type RosterEntry,
	type RosterPlace,
	type RowProblem,
	type Table
} from './roster';

// OneRoster 1.1 and 1.2, CSV binding (1EdTech): one table a file, with fixed titles. A course of ours is a class of theirs.

/** Tables that have to be there. */
export const NEEDED = ['users.csv', 'classes.csv', 'enrollments.csv'] as const;

/** A row by its titles. */
interface Row {
	readonly line: number;
	get(title: string): string;
}

/** @throws RangeError with a sentence where a table or a column is missing */
export function rosterOfOneRoster(tables: ReadonlyMap<string, Table>): Roster {
	const problems: RowProblem[] = [];
	const missing = NEEDED.filter((name) => !tables.has(name));
	if (missing.length > 0) throw new RangeError(`The ZIP lacks ${missing.join(', ')}.`);
	const read = (name: string, needs: readonly string[]) => rowsOf(tables.get(name)!, needs);
	const complain = (file: string, line: number, reason: string) => void problems.push({ file, line, reason });
	const people = peopleIn(read('users.csv', ['sourcedId', 'givenName', 'familyName']), complain);
	const titles = new Map(
		(tables.has('courses.csv') ? read('courses.csv', ['sourcedId', 'title']) : []).map((row) => [
			row.get('sourcedId'),
			row
		])
	);
	const courses = coursesIn(read('classes.csv', ['sourcedId', 'title']), titles, complain);
	const places = placesIn(
		read('enrollments.csv', ['classSourcedId', 'userSourcedId', 'role']),
		new Set(courses.map((c) => c.identifier)),
		new Set(people.map((p) => p.key)),
		complain
	);
	return { people, courses, places, problems };
}

type Complain = (file: string, line: number, reason: string) => void;

const isGone = (row: Row) =>
	/^tobedeleted$/i.test(row.get('status')) || /^(false|0)$/i.test(row.get('enabledUser'));

function peopleIn(rows: readonly Row[], complain: Complain): RosterEntry[] {
	const people = new Map<string, RosterEntry>();
	const mails = new Map<string, number>();
	for (const row of rows) {
		if (isGone(row)) continue;
		const key = row.get('sourcedId');
		// 1.2 has preferred names beside the others.
		const given = row.get('preferredGivenName') || row.get('preferredFirstName') || row.get('givenName');
		const family = row.get('preferredFamilyName') || row.get('preferredLastName') || row.get('familyName');
		const email = row.get('email').toLowerCase() || null;
		const wrong =
			(key === '' && 'There is no sourcedId.') ||
			(people.has(key) && `The sourcedId ${key} is there twice.`) ||
			(!given && !family && 'There is no name in this row.') ||
			[given, family, key].map(textProblem).find((p) => p !== null);
		if (wrong) {
			complain('users.csv', row.line, wrong);
			continue;
		}
		const taken = email && mails.get(email);
		const usable = email && isMail(email) && !taken ? email : null;
		if (email && !usable) {
			complain(
				'users.csv',
				row.line,
				taken
					? `The address ${email} is that of line ${taken} too; it is left out.`
					: `“${email}” is not a mail address; it is left out.`
			);
		}
		if (usable) mails.set(usable, row.line);
		people.set(key, {
			key,
			identifier: key,
			given,
			family,
			email: usable,
			login: row.get('username').toLowerCase() || null
		});
	}
	return [...people.values()];
}

function coursesIn(
	rows: readonly Row[],
	titles: ReadonlyMap<string, Row>,
	complain: Complain
): RosterCourse[] {
	const courses = new Map<string, RosterCourse>();
	const codes = new Map<string, number>();
	for (const row of rows) {
		if (isGone(row)) continue;
		const identifier = row.get('sourcedId');
		const course = titles.get(row.get('courseSourcedId'));
		const title = row.get('title') || course?.get('title') || '';
		const code = (row.get('classCode') || course?.get('courseCode') || title).slice(0, 60);
		const wrong =
			(identifier === '' && 'There is no sourcedId.') ||
			(courses.has(identifier) && `The sourcedId ${identifier} is there twice.`) ||
			(code === '' && 'This class has neither a title nor a code.') ||
			(codes.has(code) && `The code ${code} is that of line ${codes.get(code)} too.`) ||
			[code, title].map(textProblem).find((p) => p !== null);
		if (wrong) {
			complain('classes.csv', row.line, wrong);
			continue;
		}
		codes.set(code, row.line);
		courses.set(identifier, { identifier, code, title: title || code });
	}
	return [...courses.values()];
}

function placesIn(
	rows: readonly Row[],
	courses: ReadonlySet<string>,
	people: ReadonlySet<string>,
	complain: Complain
): RosterPlace[] {
	const places = new Map<string, RosterPlace>();
	for (const row of rows) {
		if (isGone(row)) continue;
		const [course, person] = [row.get('classSourcedId'), row.get('userSourcedId')];
		const role = row.get('role').toLowerCase();
		// Guardians, proctors and the like have nothing to do here.
		if (role !== 'student' && role !== 'teacher') continue;
		if (!courses.has(course))
			complain('enrollments.csv', row.line, `There is no class ${course} in classes.csv.`);
		else if (!people.has(person))
			complain('enrollments.csv', row.line, `There is nobody ${person} in users.csv.`);
		// Who teaches a class and is enrolled in it as well, teaches it.
		else if (!places.has(`${course} ${person}`) || role === 'teacher') {
			places.set(`${course} ${person}`, { course, person, role });
		}
	}
	return [...places.values()];
}

function rowsOf({ name, rows }: Table, needs: readonly string[]): Row[] {
	const titles = new Map(rows[0]?.cells.map((title, i) => [title.toLowerCase(), i]));
	const missing = needs.filter((title) => !titles.has(title.toLowerCase()));
	if (missing.length > 0) {
		throw new RangeError(
			`${name} lacks the ${missing.length > 1 ? 'columns' : 'column'} ${missing.join(', ')}.`
		);
	}
	return rows.slice(1).map(({ line, cells }) => ({
		line,
		get: (title) => (cells[titles.get(title.toLowerCase()) ?? -1] ?? '').normalize('NFC').trim()
	}));
}
