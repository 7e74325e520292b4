import { dropBundles } from './bundles';
import type { Database } from './database';

/** What would go with a person or a course. */
export interface Holdings {
	readonly packets: number;
	readonly originals: number;
	/** Bytes of originals. */
	readonly bytes: number;
	/** Packets that were handed in, and lie wherever they were handed in to. */
	readonly handedIn: number;
	/** Rule sheets: a person's stay with their courses, a course's go with it. */
	readonly ruleSheets: number;
}

/** Whose work it is: a person's own packets, or all of a course's. */
export type WorkOf = { readonly personId: string } | { readonly courseId: string };

const packetsOf = (of: WorkOf) =>
	'personId' in of
		? { sql: 'select id from packet where person_id = $1', id: of.personId }
		: {
				sql: 'select t.id from packet t join assignment a on a.id = t.assignment_id where a.course_id = $1',
				id: of.courseId
			};

export async function holdingsOf(db: Database, of: WorkOf): Promise<Holdings> {
	const { sql, id } = packetsOf(of);
	const sheets = 'personId' in of ? 'created_by' : 'course_id';
	const rows = await db.query<Holdings>(
		`with mine as (${sql})
		select (select count(*)::int from mine) as packets,
			(select count(*)::int from source where packet_id in (select id from mine)) as originals,
			(select coalesce(sum(bytes), 0)::float8 from source where packet_id in (select id from mine)) as bytes,
			(select count(distinct packet_id)::int from delivery
				where state in ('received', 'sent') and packet_id in (select id from mine)) as "handedIn",
			(select count(*)::int from assignment where ${sheets} = $1) as "ruleSheets"`,
		[id]
	);
	return rows[0]!;
}

/** Removes packets with all that hangs on them. @returns SHA-256 of files that nothing refers to any more */
async function removePackets(db: Database, of: WorkOf): Promise<string[]> {
	const { sql, id } = packetsOf(of);
	const files = await db.query<{ sha256: string }>(
		`select sha256 from source where packet_id in (${sql})
		union select sha256 from file where sha256 is not null and packet_id in (${sql})`,
		[id]
	);
	await db.query(`delete from packet where id in (${sql})`, [id]);
	// What was found on pages that no packet has any more.
	await db.query('delete from prepared where key not in (select prepared_key from packet_page)');
	await db.query('delete from weighed where key not in (select prepared_key from packet_page)');
	await db.query('delete from reading where key not in (select reading_key from packet_page)');
	await db.query('delete from page_name where reading_key not in (select reading_key from packet_page)');
	return unreferenced(
		db,
		files.map((f) => f.sha256)
	);
}

/** Of files, those that nothing refers to any more. */
async function unreferenced(db: Database, files: readonly string[]): Promise<string[]> {
	const still = await db.query<{ sha256: string }>(
		`select sha256 from source where sha256 = any($1::text[])
		union select sha256 from file where sha256 = any($1::text[])`,
		[files]
	);
	const kept = new Set(still.map((f) => f.sha256));
	return files.filter((sha256) => !kept.has(sha256));
}

/** Stacks in which pages are said to be a person's. */
export async function stacksWith(db: Database, personId: string): Promise<string[]> {
	const rows = await db.query<{ id: string }>(
		`select id from packet where kind = 'stack' and state -> 'cuts' @> jsonb_build_array(jsonb_build_object('person', $1::text))`,
		[personId]
	);
	return rows.map((row) => row.id);
}

/** Removes files of stacks of which no page is left in any. @returns SHA-256 of files that nothing refers to any more */
async function removeUnusedSources(db: Database, stacks: readonly string[]): Promise<string[]> {
	const gone = await db.query<{ sha256: string }>(
		`delete from source s using packet p
		where p.id = s.packet_id and p.id = any($1::uuid[]) and s.state = 'ready'
			and not exists (select 1 from jsonb_each(p.state -> 'pages') page where page.value ->> 'source' = s.id::text)
		returning s.sha256`,
		[stacks]
	);
	return unreferenced(
		db,
		gone.map((row) => row.sha256)
	);
}

/**
 * Erases what is known of a person, with their packets. A row without a name stays, so that what they did for others
 * still has an author.
 *
 * @param stacks of which their pages were taken out
 * @returns SHA-256 of files that nothing refers to any more
 */
export async function erasePerson(
	db: Database,
	personId: string,
	stacks: readonly string[] = []
): Promise<string[]> {
	const answered = await db.query<{ id: string }>(
		'select distinct assignment_id as id from packet where person_id = $1',
		[personId]
	);
	await dropBundles(
		db,
		answered.map((a) => a.id)
	);
	await db.query('delete from answer_code where person_id = $1', [personId]);
	await db.query('delete from more_time where person_id = $1', [personId]);
	const files = [...(await removePackets(db, { personId })), ...(await removeUnusedSources(db, stacks))];
	for (const table of ['session', 'invitation', 'enrolment', 'phone_link']) {
		await db.query(`delete from ${table} where person_id = $1`, [personId]);
	}
	await db.query(
		`update deed d set who = case when d.person_id = p.id then 'somebody who was erased' else d.who end,
			what = replace(replace(d.what, trim(p.given || ' ' || p.family), 'somebody who was erased'), p.login, '…')
		from person p where p.id = $1`,
		[personId]
	);
	await db.query(
		`update person set given = '', family = 'Erased', login = 'erased-' || id, email = null, identifier = null,
			password_hash = null, is_administrator = false, archived_at = coalesce(archived_at, now())
		where id = $1`,
		[personId]
	);
	return files;
}

/** Removes a course with its rule sheets and all its packets. @returns SHA-256 of files that nothing refers to any more */
export async function removeCourse(db: Database, courseId: string): Promise<string[]> {
	const files = await removePackets(db, { courseId });
	await db.query('delete from assignment where course_id = $1', [courseId]);
	await db.query('delete from course where id = $1', [courseId]);
	return files;
}

/** Keys of all prepared pages, of which pictures are kept. */
export async function preparedKeys(db: Database): Promise<Set<string>> {
	return new Set((await db.query<{ key: string }>('select key from prepared')).map((row) => row.key));
}
