import { csvFormatRows } from 'd3-dsv';
import { zipSync } from 'fflate';
import { asCells } from '../../core/text/csvCells';
import { membersOf } from '../store/courses';
import type { Database } from '../store/database';
import { standingOf } from '../store/roster';

/** The people of a course as a list that can be brought in again. */
export async function listCsv(db: Database, courseId: string): Promise<string> {
	const members = await membersOf(db, courseId);
	return table(
		['Family name', 'Given name', 'Identifier', 'Email', 'Username', 'Role'],
		members.map((m) => [m.family, m.given, m.identifier ?? '', m.email ?? '', m.login, m.role])
	);
}

/** The school's people, courses and places in the tables of OneRoster 1.1 (CSV binding, bulk files). */
export async function rosterZip(db: Database): Promise<Uint8Array> {
	const { people, courses, places } = await standingOf(db);
	const personId = new Map(people.map((p) => [p.id, p.identifier ?? p.id]));
	const courseId = new Map(courses.map((c) => [c.id, c.identifier ?? c.id]));
	const teaches = new Set(places.filter((p) => p.role === 'teacher').map((p) => p.personId));
	const files: Record<string, string> = {
		'manifest.csv': table(
			['propertyName', 'value'],
			[
				['manifest.version', '1.0'],
				['oneroster.version', '1.1'],
				...['users', 'classes', 'courses', 'enrollments', 'orgs'].map((name) => [`file.${name}`, 'bulk']),
				['source.systemName', 'Membrana']
			]
		),
		'orgs.csv': table(['sourcedId', 'name', 'type'], [['school', 'School', 'school']]),
		'users.csv': table(
			['sourcedId', 'enabledUser', 'orgSourcedIds', 'role', 'username', 'givenName', 'familyName', 'email'],
			people.map((p) => [
				personId.get(p.id)!,
				p.isArchived ? 'false' : 'true',
				'school',
				teaches.has(p.id) ? 'teacher' : 'student',
				p.login,
				p.given,
				p.family,
				p.email ?? ''
			])
		),
		'courses.csv': table(
			['sourcedId', 'title', 'courseCode', 'orgSourcedId'],
			courses.filter((c) => !c.isArchived).map((c) => [`${courseId.get(c.id)}-c`, c.title, c.code, 'school'])
		),
		'classes.csv': table(
			['sourcedId', 'title', 'courseSourcedId', 'classCode', 'classType', 'schoolSourcedId'],
			courses
				.filter((c) => !c.isArchived)
				.map((c) => [courseId.get(c.id)!, c.title, `${courseId.get(c.id)}-c`, c.code, 'scheduled', 'school'])
		),
		'enrollments.csv': table(
			['sourcedId', 'classSourcedId', 'schoolSourcedId', 'userSourcedId', 'role'],
			places.map((p, i) => [
				String(i + 1),
				courseId.get(p.courseId)!,
				'school',
				personId.get(p.personId)!,
				p.role
			])
		)
	};
	const encoder = new TextEncoder();
	return zipSync(
		Object.fromEntries(Object.entries(files).map(([name, text]) => [name, encoder.encode(text)]))
	);
}

function table(titles: readonly string[], rows: readonly (readonly string[])[]): string {
	return `${csvFormatRows([titles, ...rows.map((row) => Object.values(asCells(row)))] as string[][])}\n`;
}
