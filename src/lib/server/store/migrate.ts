import type { Database } from './database';

const files = import.meta.glob('./migrations/*.sql', { query: '?raw', import: 'default', eager: true });

/** A number of our own: processes that start together take turns by it (pg_advisory_xact_lock). */
const TURN = 7_301_155;

const pathOf = new Map(
	Object.keys(files)
		.sort()
		.map((path) => [path.split('/').at(-1)!, path])
);

/** Names of all migrations that this version knows, in order. */
export const MIGRATIONS: readonly string[] = [...pathOf.keys()];

/** Names of the migrations that a database has seen, in order; none for an empty one. */
export async function migrationsOf(db: Database): Promise<string[]> {
	const [there] = await db.query<{ is: boolean }>(`select to_regclass('public.migration') is not null as is`);
	if (!there?.is) return [];
	return (await db.query<{ name: string }>('select name from migration order by name')).map(
		(row) => row.name
	);
}

/**
 * Runs the numbered migrations that this database has not seen, each in a transaction, one process at a time.
 * @param names those that may run; all where it is left out
 */
export async function migrate(db: Database, names: readonly string[] = MIGRATIONS): Promise<void> {
	const known = await migrationsOf(db);
	for (const [name, path] of pathOf) {
		// What was seen stays seen; what was not is asked again in its turn.
		if (!names.includes(name) || known.includes(name)) continue;
		await db.transaction(async (tx) => {
			await tx.query('select pg_advisory_xact_lock($1)', [TURN]);
			await tx.script(
				'create table if not exists migration (name text primary key, run_at timestamptz not null default now())'
			);
			const done = await tx.query('select 1 from migration where name = $1', [name]);
			if (done.length > 0) return;
			await tx.script(files[path] as string);
			await tx.query('insert into migration (name) values ($1)', [name]);
		});
	}
}
