import type { Database } from './database';

/** As much of a database as migrations need. */
export type MigratedDatabase = Pick<Database, 'query' | 'script'> & {
	transaction<T>(work: (db: Pick<Database, 'query' | 'script'>) => Promise<T>): Promise<T>;
};

/** A number of our own: processes that start together take turns by it (pg_advisory_xact_lock). */
const TURN = 7_301_155;

/** Names of the migrations that a database has seen, in order; none for an empty one. */
export async function migrationsOf(db: Pick<Database, 'query'>): Promise<string[]> {
	const [there] = await db.query<{ is: boolean }>(`select to_regclass('public.migration') is not null as is`);
	if (!there?.is) return [];
	return (await db.query<{ name: string }>('select name from migration order by name')).map(
		(row) => row.name
	);
}

/**
 * Runs migrations that a database has not seen, each in a transaction, one process at a time.
 * @param migrations SQL by name, in order
 */
export async function applyMigrations(
	db: MigratedDatabase,
	migrations: ReadonlyMap<string, string>
): Promise<void> {
	const known = await migrationsOf(db);
	for (const [name, sql] of migrations) {
		// What was seen stays seen; what was not is asked again in its turn.
		if (known.includes(name)) continue;
		await db.transaction(async (tx) => {
			await tx.query('select pg_advisory_xact_lock($1)', [TURN]);
			await tx.script(
				'create table if not exists migration (name text primary key, run_at timestamptz not null default now())'
			);
			const done = await tx.query('select 1 from migration where name = $1', [name]);
			if (done.length > 0) return;
			await tx.script(sql);
			await tx.query('insert into migration (name) values ($1)', [name]);
		});
	}
}
