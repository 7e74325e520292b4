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

/**
 * Runs the numbered migrations that this database has not seen, each in a transaction, one process at a time.
 * @param names those that may run; all where it is left out
 */
export async function migrate(db: Database, names: readonly string[] = MIGRATIONS): Promise<void> {
	for (const [name, path] of pathOf) {
		if (!names.includes(name)) continue;
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
