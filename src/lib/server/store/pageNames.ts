import type { NameReading } from '../../core/reading/personName';
import type { Database } from './database';
import { MATCHER } from './derivedKeys';
import { newOfPage } from './pageKeys';

/** SQL for a hash of the roster of a course, and of how names are matched: another roster may name other people. */
export const rosterKeyOf = (course: string) => `(
	select md5('${MATCHER}|' || coalesce(string_agg(concat_ws('|', p.id, p.given, p.family), ',' order by p.id), '')) as key
	from person p join enrolled e on e.person_id = p.id
	where e.course_id = ${course} and e.role in ('student', 'own'))`;

export async function rosterKey(db: Database, courseId: string): Promise<string> {
	return (await db.query<{ key: string }>(rosterKeyOf('$1'), [courseId]))[0]!.key;
}

/** @returns the packets in which they are new */
export async function addNames(
	db: Database,
	roster: string,
	names: readonly { readonly readingKey: string; readonly name: NameReading | null }[]
): Promise<string[]> {
	await db.query(
		`insert into page_name (reading_key, roster_key, name)
		select n ->> 'readingKey', $1, nullif(n -> 'name', 'null'::jsonb) from jsonb_array_elements($2::jsonb) n
		on conflict do nothing`,
		[roster, JSON.stringify(names)]
	);
	return newOfPage(db, { readings: names.map((n) => n.readingKey) });
}
