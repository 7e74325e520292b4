import type { NameReading } from '../../core/reading/personName';
import type { Database } from './database';

/** A hash of a course's roster: another roster may name other people. */
export async function rosterKey(db: Database, courseId: string): Promise<string> {
	const rows = await db.query<{ key: string }>(
		`select md5(coalesce(string_agg(concat_ws('|', p.id, p.given, p.family), ',' order by p.id), '')) as key
		from person p join enrolment e on e.person_id = p.id
		where e.course_id = $1 and e.role = 'student'`,
		[courseId]
	);
	return rows[0]!.key;
}

/** The names on pages, by reading key; null where a page carries none. What is absent was not matched yet. */
export async function namesByKeys(
	db: Database,
	roster: string,
	readingKeys: readonly string[]
): Promise<Map<string, NameReading | null>> {
	if (readingKeys.length === 0) return new Map();
	const rows = await db.query<{ key: string; name: NameReading | null }>(
		`select reading_key as key, name from page_name
		where roster_key = $1 and reading_key in (select jsonb_array_elements_text($2::jsonb))`,
		[roster, JSON.stringify(readingKeys)]
	);
	return new Map(rows.map((r) => [r.key, r.name]));
}

export async function addNames(
	db: Database,
	roster: string,
	names: readonly { readonly readingKey: string; readonly name: NameReading | null }[]
): Promise<void> {
	await db.query(
		`insert into page_name (reading_key, roster_key, name)
		select n ->> 'readingKey', $1, nullif(n -> 'name', 'null'::jsonb) from jsonb_array_elements($2::jsonb) n
		on conflict do nothing`,
		[roster, JSON.stringify(names)]
	);
}
