import { withMoreTime } from '../../core/rules/moreTime';
import type { OpenFinding } from '../../core/board/summarise';
import type { RuleSheet } from '../../core/rules/ruleSheet';
import type { Database } from './database';
import { packetById, type PacketRow } from './packets';
import type { Role } from './people';
import { STANDS } from './returns';

export interface Assignment {
	readonly id: string;
	readonly courseId: string;
	readonly courseCode: string;
	readonly courseTitle: string;
	/** Of its people's work, as a BCP 47 tag. */
	readonly courseLanguage: string;
	readonly ruleSheet: RuleSheet;
	readonly version: number;
}

/** A course of one's own has no code: what the rule sheet says stands for it. */
const COURSE_CODE = `coalesce(nullif(c.code, ''), a.rule_sheet ->> 'course', '')`;

const ASSIGNMENT = `
	select a.id, a.course_id as "courseId", ${COURSE_CODE} as "courseCode", c.title as "courseTitle",
		c.language as "courseLanguage", a.rule_sheet as "ruleSheet", a.version
	from assignment a join course c on c.id = a.course_id`;

export async function assignmentById(db: Database, id: string): Promise<Assignment | null> {
	return (await db.query<Assignment>(`${ASSIGNMENT} where a.id = $1`, [id]))[0] ?? null;
}

/**
 * The rule sheet with the course's code where it names no course itself, and with the time that the packet's person has.
 */
export function ruleSheetOf(
	{ ruleSheet, courseCode }: Pick<Assignment, 'ruleSheet' | 'courseCode'>,
	packet?: Pick<PacketRow, 'moreTime'>
): RuleSheet {
	return withMoreTime({ ...ruleSheet, course: ruleSheet.course || courseCode }, packet?.moreTime ?? null);
}

/** A packet with the assignment that it answers; null when it is not there any more. */
export async function packetWithAssignment(
	db: Database,
	packetId: string
): Promise<{ packet: PacketRow; assignment: Assignment } | null> {
	const packet = await packetById(db, packetId);
	return packet && { packet, assignment: (await assignmentById(db, packet.assignmentId))! };
}

export async function addAssignment(
	db: Database,
	courseId: string,
	ruleSheet: RuleSheet,
	createdBy: string
): Promise<string> {
	const rows = await db.query<{ id: string }>(
		'insert into assignment (course_id, rule_sheet, created_by) values ($1, $2::jsonb, $3) returning id',
		[courseId, JSON.stringify(ruleSheet), createdBy]
	);
	return rows[0]!.id;
}

/** Saves a rule sheet over the version it was made from; false when somebody else was faster. */
export async function saveRuleSheet(
	db: Database,
	id: string,
	baseVersion: number,
	ruleSheet: RuleSheet
): Promise<boolean> {
	const rows = await db.query(
		`update assignment set rule_sheet = $3::jsonb, version = version + 1, updated_at = now()
		where id = $1 and version = $2 returning id`,
		[id, baseVersion, JSON.stringify(ruleSheet)]
	);
	return rows.length > 0;
}

export interface DeskRow extends Assignment {
	readonly role: Role;
	/** A student's own packet. */
	readonly packetId: string | null;
	readonly pages: number;
	readonly handedInAt: string | null;
	/** When it was given back, where that still stands. */
	readonly returnedAt: string | null;
	/** When it is due for this person, where that is not what the rule sheet says. */
	readonly moreTime: string | null;
	/** A teacher's class; null for a student. */
	readonly students: number | null;
	readonly begun: number | null;
	readonly handedIn: number | null;
	/** When this teacher last looked at the board, and how many packets were received since. */
	readonly lookedAt: string | null;
	readonly since: number | null;
	/** What was open in the student's own packet when it was last checked; null where it was changed since. */
	readonly open: readonly OpenFinding[] | null;
}

/** Every assignment of a person's courses with its state, for the desk. */
export function deskRows(db: Database, personId: string): Promise<DeskRow[]> {
	return db.query<DeskRow>(
		`select a.id, a.course_id as "courseId", ${COURSE_CODE} as "courseCode", c.title as "courseTitle",
			a.rule_sheet as "ruleSheet", a.version, e.role,
			mine.id as "packetId",
			coalesce(jsonb_array_length(mine.state -> 'strip'), 0) as pages,
			(select max(d.answered_at) from delivery d where d.packet_id = mine.id and d.state = 'received')
				as "handedInAt",
			(select max(r.returned_at) from packet_return r where r.packet_id = mine.id and ${STANDS}) as "returnedAt",
			(select m.due from more_time m where m.assignment_id = a.id and m.person_id = $1) as "moreTime",
			-- How far the class is, is for its teachers.
			case when e.role = 'teacher' then
				(select count(*)::int from enrolled s where s.course_id = c.id and s.role = 'student') end as students,
			case when e.role = 'teacher' then (select count(*)::int from packet p where p.assignment_id = a.id and p.kind = 'packet'
				and jsonb_array_length(p.state -> 'strip') > 0) end as begun,
			case when e.role = 'teacher' then
				(select count(distinct d.packet_id)::int from delivery d join packet p on p.id = d.packet_id
				where p.assignment_id = a.id and d.state = 'received') end as "handedIn",
			l.at as "lookedAt",
			(select count(distinct d.packet_id)::int from delivery d join packet p on p.id = d.packet_id
				where p.assignment_id = a.id and d.state = 'received' and d.answered_at > l.at) as since,
			(select f.summary -> 'open' from packet_findings f where f.packet_id = mine.id
				and (f.version, f.sheet_version) = (mine.version, a.version)) as open
		from assignment a
		join course c on c.id = a.course_id
		join enrolled e on e.course_id = c.id and e.person_id = $1
		left join looked l on l.assignment_id = a.id and l.person_id = e.person_id and e.role = 'teacher'
		left join packet mine on mine.assignment_id = a.id and mine.person_id = $1 and mine.kind = 'packet'
		where c.archived_at is null
		order by a.rule_sheet ->> 'due' nulls last, a.rule_sheet ->> 'title'`,
		[personId]
	);
}
