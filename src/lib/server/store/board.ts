import type { BoardStudent } from '../../core/board/board';
import type { Database } from './database';

/** Every student of an assignment's course, in one question. */
export function boardRows(db: Database, assignmentId: string): Promise<BoardStudent[]> {
	return db.query<BoardStudent>(
		`select s.id, s.given, s.family, s.email is not null as "hasMail",
			p.id as "packetId", coalesce(p.version, 0) as version,
			coalesce(jsonb_array_length(p.state -> 'strip'), 0) as pages, p.updated_at as "updatedAt",
			f.summary, coalesce((f.version, f.sheet_version) = (p.version, a.version), false) as fresh,
			d.received as "handedInAt", coalesce(p.version > d.version, false) as "changedSince",
			coalesce(d.open, false) as "onItsWay",
			case when r.at > coalesce(d.begun, '-infinity') then r.at end as "returnedAt",
			m.due as "moreTime"
		from assignment a
		join enrolled e on e.course_id = a.course_id and e.role = 'student'
		join person s on s.id = e.person_id
		left join packet p on p.assignment_id = a.id and p.person_id = s.id and p.kind = 'packet'
		left join packet_findings f on f.packet_id = p.id
		left join lateral (
			select max(d.answered_at) filter (where d.state = 'received') as received,
				max(fi.packet_version) filter (where d.state = 'received') as version,
				max(d.handed_in_at) filter (where d.state not in ('refused', 'recalled')) as begun,
				bool_or(d.state in ('sending', 'sent')) as open
			from delivery d join file fi on fi.id = d.file_id where d.packet_id = p.id
		) d on true
		left join lateral (
			select max(returned_at) as at from packet_return where packet_id = p.id and taken_back_at is null
		) r on true
		left join more_time m on m.assignment_id = a.id and m.person_id = s.id
		where a.id = $1 order by s.family, s.given, s.id`,
		[assignmentId]
	);
}

/** When somebody last looked at an assignment's board; from now on it is now. */
export async function lookAtBoard(
	db: Database,
	assignmentId: string,
	personId: string
): Promise<string | null> {
	const rows = await db.query<{ before: string | null }>(
		`with before as (select at from looked where assignment_id = $1 and person_id = $2),
			kept as (insert into looked (assignment_id, person_id) values ($1, $2)
				on conflict (assignment_id, person_id) do update set at = now() returning at)
		select (select at from before) as before from kept`,
		[assignmentId, personId]
	);
	return rows[0]!.before;
}

/** Gives people more time than the rule sheet does, or takes it back. */
export async function giveTime(
	db: Database,
	assignmentId: string,
	people: readonly string[],
	due: string | null,
	by: string
): Promise<void> {
	if (due === null) {
		await db.query('delete from more_time where assignment_id = $1 and person_id = any($2::uuid[])', [
			assignmentId,
			people
		]);
		return;
	}
	await db.query(
		`insert into more_time (assignment_id, person_id, due, given_by)
		select $1::uuid, unnest($2::uuid[]), $3, $4::uuid
		on conflict (assignment_id, person_id) do update
			set due = excluded.due, given_by = excluded.given_by, given_at = now()`,
		[assignmentId, people, due, by]
	);
}

/** Those of some people who are students of an assignment's course, with what a letter to them needs. */
export function studentsAmong(
	db: Database,
	assignmentId: string,
	people: readonly string[]
): Promise<{ id: string; given: string; family: string; email: string | null; packetId: string | null }[]> {
	return db.query(
		`select s.id, s.given, s.family, s.email, p.id as "packetId"
		from assignment a
		join enrolled e on e.course_id = a.course_id and e.role = 'student'
		join person s on s.id = e.person_id
		left join packet p on p.assignment_id = a.id and p.person_id = s.id and p.kind = 'packet'
		where a.id = $1 and s.id = any($2::uuid[]) order by s.family, s.given`,
		[assignmentId, people]
	);
}
