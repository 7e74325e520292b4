import type { RuleSheet } from '../../core/rules/ruleSheet';
import type { Database } from './database';
import type { Role } from './people';

export interface Course {
	readonly id: string;
	readonly code: string;
	readonly title: string;
}

export async function addCourse(
	db: Database,
	code: string,
	title: string,
	{ timeZone, language }: { readonly timeZone: string; readonly language: string } = {
		timeZone: 'UTC',
		language: 'en'
	}
): Promise<string> {
	const rows = await db.query<{ id: string }>(
		'insert into course (code, title, time_zone, language) values ($1, $2, $3, $4) returning id',
		[code, title, timeZone, language]
	);
	return rows[0]!.id;
}

/** Whether a course in use has this code already. @param but a course that may have it */
export async function isCodeTaken(db: Database, code: string, but: string | null): Promise<boolean> {
	const rows = await db.query(
		'select 1 from course where code = $1 and archived_at is null and id is distinct from $2::uuid',
		[code, but]
	);
	return rows.length > 0;
}

export async function enrol(db: Database, courseId: string, personId: string, role: Role): Promise<void> {
	await db.query(
		`insert into enrolment (course_id, person_id, role) values ($1, $2, $3)
		on conflict (course_id, person_id) do update set role = excluded.role, left_at = null`,
		[courseId, personId, role]
	);
}

/** A course as it is run. */
export interface CourseRow extends Course {
	readonly version: number;
	readonly timeZone: string;
	readonly language: string;
	readonly isArchived: boolean;
	readonly identifier: string | null;
}

const COURSE = `
	select c.id, c.code, c.title, c.version, c.time_zone as "timeZone", c.language, c.identifier,
		c.archived_at is not null as "isArchived" from course c`;

export async function courseById(db: Database, id: string): Promise<CourseRow | null> {
	return (await db.query<CourseRow>(`${COURSE} where c.id = $1`, [id]))[0] ?? null;
}

export interface CourseCounts extends CourseRow {
	readonly teachers: string[];
	readonly students: number;
	/** Students who have a password. */
	readonly cameIn: number;
	/** Of originals. */
	readonly bytes: number;
}

/** Every course of the school, those in use first. */
export function allCourses(db: Database): Promise<CourseCounts[]> {
	return db.query<CourseCounts>(
		`select c.*, coalesce(t.teachers, '[]') as teachers, coalesce(s.students, 0) as students,
			coalesce(s.came, 0) as "cameIn", coalesce(b.bytes, 0) as bytes
		from (${COURSE}) c
		left join (
			select e.course_id, json_agg(trim(p.given || ' ' || p.family) order by p.family) as teachers
			from enrolled e join person p on p.id = e.person_id where e.role = 'teacher' group by e.course_id
		) t on t.course_id = c.id
		left join (
			select e.course_id, count(*)::int as students, count(p.password_hash)::int as came
			from enrolled e join person p on p.id = e.person_id where e.role = 'student' group by e.course_id
		) s on s.course_id = c.id
		left join (
			select a.course_id, sum(o.bytes)::float8 as bytes from source o
			join packet t on t.id = o.packet_id join assignment a on a.id = t.assignment_id group by a.course_id
		) b on b.course_id = c.id
		order by c."isArchived", c.code`
	);
}

/**
 * Changes a course over the version that was looked at.
 * @returns false when somebody else was faster
 */
export async function changeCourse(
	db: Database,
	id: string,
	version: number,
	course: Pick<CourseRow, 'code' | 'title' | 'timeZone' | 'language'>
): Promise<boolean> {
	const rows = await db.query(
		`update course set code = $3, title = $4, time_zone = $5, language = $6, version = version + 1
		where id = $1 and version = $2 returning id`,
		[id, version, course.code, course.title, course.timeZone, course.language]
	);
	return rows.length > 0;
}

/** Takes a course off everybody's desk, or puts it back; nothing of it is lost. */
export async function archiveCourse(db: Database, id: string, archived: boolean): Promise<void> {
	await db.query(
		'update course set archived_at = case when $2 then now() end, version = version + 1 where id = $1',
		[id, archived]
	);
}

export interface MemberRow {
	readonly id: string;
	readonly given: string;
	readonly family: string;
	readonly login: string;
	readonly email: string | null;
	readonly identifier: string | null;
	readonly role: Role;
	readonly hasPassword: boolean;
	/** The way in that is open, and since when. */
	readonly invitedBy: 'mail' | 'slip' | null;
	readonly invitedAt: string | null;
}

/** Everybody in a course, teachers first. */
export function membersOf(db: Database, courseId: string): Promise<MemberRow[]> {
	return db.query<MemberRow>(
		`select p.id, p.given, p.family, p.login, p.email, p.identifier, e.role,
			p.password_hash is not null as "hasPassword", i.by as "invitedBy", i.made_at as "invitedAt"
		from enrolled e join person p on p.id = e.person_id
		left join lateral (
			select by, made_at from invitation where person_id = p.id and used_at is null and expires_at > now()
			order by made_at desc limit 1
		) i on true
		where e.course_id = $1 order by e.role desc, p.family, p.given`,
		[courseId]
	);
}

export async function setDefaults(db: Database, id: string, defaults: Partial<RuleSheet>): Promise<void> {
	await db.query('update course set defaults = $2::jsonb where id = $1', [id, JSON.stringify(defaults)]);
}

/** Has a person leave a course; their work stays. */
export async function leaveCourse(db: Database, courseId: string, personId: string): Promise<void> {
	await db.query('update enrolment set left_at = now() where course_id = $1 and person_id = $2', [
		courseId,
		personId
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

/** A course whose rule sheets a person writes. */
export interface TaughtCourse extends Course {
	readonly timeZone: string;
	/** Rules that new rule sheets begin with. */
	readonly defaults: Partial<RuleSheet>;
}

export function coursesTaught(db: Database, personId: string): Promise<TaughtCourse[]> {
	return db.query<TaughtCourse>(
		`select c.id, c.code, c.title, c.time_zone as "timeZone", c.defaults from course c
		join enrolled e on e.course_id = c.id
		where e.person_id = $1 and e.role in ('teacher', 'own') and c.archived_at is null order by c.code`,
		[personId]
	);
}

export function studentsOf(
	db: Database,
	courseId: string
): Promise<{ id: string; given: string; family: string; sourcedId: string }[]> {
	return db.query(
		`select p.id, p.given, p.family, coalesce(p.identifier, p.id::text) as "sourcedId" from person p
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
