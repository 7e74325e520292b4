import type { Database } from './database';
import type { Person } from './people';

/** What somebody did. */
export interface DeedRow {
	readonly at: string;
	readonly who: string;
	readonly what: string;
}

/**
 * Writes down who did what, in the same transaction as what was done.
 * @param what a sentence without its subject: "Archived the course HY-2"
 */
export async function noteDeed(
	db: Database,
	{ id, given, family }: Pick<Person, 'id' | 'given' | 'family'>,
	what: string
): Promise<void> {
	await db.query('insert into deed (person_id, who, what) values ($1, $2, $3)', [
		id,
		`${given} ${family}`.trim(),
		what
	]);
}

/** The latest deeds, newest first. */
export function latestDeeds(db: Database, most: number): Promise<DeedRow[]> {
	return db.query<DeedRow>('select at, who, what from deed order by id desc limit $1', [most]);
}
