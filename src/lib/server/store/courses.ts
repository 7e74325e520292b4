import type { Database } from './database';
import type { Role } from './people';

export interface Course {
	readonly id: string;
	readonly code: string;
	readonly title: string;
}

export async function addCourse(db: Database, code: string, title: string): Promise<string> {
	const rows = await db.query<{ id: string }>(
		'insert into course (code, title) values ($1, $2) returning id',
		[code, title]
	);
	return rows[0]!.id;
}

export async function enrol(db: Database, courseId: string, personId: string, role: Role): Promise<void> {
	await db.query('insert into enrolment (course_id, person_id, role) values ($1, $2, $3)', [
		courseId,
		personId,
		role
	]);
}

/** The role a person has in a course, or null. */
export async function roleIn(db: Database, courseId: string, personId: string): Promise<Role | null> {
	const rows = await db.query<{ role: Role }>(
		'select role from enrolled where course_id = $1 and person_id = $2',
		[courseId, personId]
	);
	return rows[0]?.role ?? null;
}

export function coursesTaught(db: Database, personId: string): Promise<Course[]> {
	return db.query<Course>(
		`select c.id, c.code, c.title from course c
		join enrolled e on e.course_id = c.id
		where e.person_id = $1 and e.role in ('teacher', 'own') and c.archived_at is null order by c.code`,
		[personId]
	);
}

export function studentsOf(
	db: Database,
	courseId: string
): Promise<{ id: string; given: string; family: string }[]> {
	return db.query(
		`select p.id, p.given, p.family from person p
		join enrolled e on e.person_id = p.id
		where e.course_id = $1 and e.role in ('student', 'own') order by p.family, p.given`,
		[courseId]
	);
}

/** Teachers of a course who can be written to. */
export function teachersOf(
	db: Database,
	courseId: string
): Promise<{ given: string; family: string; email: string }[]> {
	return db.query(
		`select p.given, p.family, p.email from person p
		join enrolled e on e.person_id = p.id
		where e.course_id = $1 and e.role = 'teacher' and p.email is not null order by p.family, p.given`,
		[courseId]
	);
}
