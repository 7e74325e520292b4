import type { KnownCourse, RosterPlan, Standing } from '../../core/roster/plan';
import type { Database } from './database';

/** Everybody, every course and who is in it, as far as rosters speak of them. */
export async function standingOf(db: Database): Promise<Standing> {
	return {
		people: await db.query(
			`select id, identifier, given, family, email, login, archived_at is not null as "isArchived",
				is_administrator as "isAdministrator" from person order by id`
		),
		courses: await knownCourses(db),
		places: await db.query(
			`select course_id as "courseId", person_id as "personId", role from enrolled
			where role <> 'own' order by course_id, person_id`
		)
	};
}

export function knownCourses(db: Database): Promise<KnownCourse[]> {
	return db.query<KnownCourse>(
		`select id, identifier, code, title, archived_at is not null as "isArchived" from course order by code`
	);
}

/**
 * Does what a plan says, in a few statements whatever its size. To be called in a transaction in which the plan was made
 * of what stands there.
 */
export async function applyRoster(db: Database, plan: RosterPlan): Promise<void> {
	const people = await db.query<{ id: string; key: string }>(
		`insert into person (login, given, family, email, identifier)
		select n.login, n.given, n.family, n.email, n.identifier
		from jsonb_to_recordset($1::jsonb) as n (login text, given text, family text, email text, identifier text)
		returning id, login as key`,
		[JSON.stringify(plan.newPeople)]
	);
	const idOfLogin = new Map(people.map((p) => [p.key, p.id]));
	const personIds = new Map(plan.newPeople.map((p) => [p.key, idOfLogin.get(p.login)!]));
	await db.query(
		`update person p set given = n.given, family = n.family, archived_at = null,
			identifier = coalesce(n.identifier, p.identifier), email = coalesce(n.email, p.email)
		from jsonb_to_recordset($1::jsonb) as n (id uuid, given text, family text, email text, identifier text)
		where p.id = n.id`,
		[JSON.stringify(plan.changedPeople.map(({ before, after }) => ({ ...after, id: before.id })))]
	);
	const gone = plan.gonePeople.map((p) => p.id);
	await db.query('update person set archived_at = now() where id = any($1::uuid[])', [gone]);
	await db.query('delete from session where person_id = any($1::uuid[])', [gone]);
	await db.query('delete from invitation where person_id = any($1::uuid[])', [gone]);
	const courses = await db.query<{ id: string; identifier: string }>(
		`insert into course (identifier, code, title)
		select n.identifier, n.code, n.title
		from jsonb_to_recordset($1::jsonb) as n (identifier text, code text, title text)
		returning id, identifier`,
		[JSON.stringify(plan.newCourses)]
	);
	const courseIds = new Map(courses.map((c) => [c.identifier, c.id]));
	await db.query(
		`update course c set identifier = n.identifier, code = n.code, title = n.title, archived_at = null,
			version = c.version + 1
		from jsonb_to_recordset($1::jsonb) as n (id uuid, identifier text, code text, title text) where c.id = n.id`,
		[JSON.stringify(plan.changedCourses.map(({ before, after }) => ({ ...after, id: before.id })))]
	);
	const places = [...plan.newPlaces, ...plan.changedPlaces].map(
		({ courseId, course, personId, person, role }) => ({
			course: courseId ?? courseIds.get(course)!,
			person: personId ?? personIds.get(person)!,
			role
		})
	);
	await db.query(
		`insert into enrolment (course_id, person_id, role)
		select n.course, n.person, n.role from jsonb_to_recordset($1::jsonb) as n (course uuid, person uuid, role text)
		on conflict (course_id, person_id) do update set role = excluded.role, left_at = null`,
		[JSON.stringify(places)]
	);
	await db.query(
		`update enrolment e set left_at = now()
		from jsonb_to_recordset($1::jsonb) as n ("courseId" uuid, "personId" uuid)
		where e.course_id = n."courseId" and e.person_id = n."personId"`,
		[JSON.stringify(plan.gonePlaces)]
	);
}
