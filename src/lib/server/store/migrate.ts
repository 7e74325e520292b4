import { applyMigrations } from './applyMigrations';
import type { Database } from './database';

const files = import.meta.glob('./migrations/*.sql', { query: '?raw', import: 'default', eager: true });

const sqlOf = new Map(
	Object.entries(files)
		.map(([path, sql]) => [path.split('/').at(-1)!, sql as string] as const)
		.sort(([a], [b]) => (a < b ? -1 : 1))
);

/** Names of all migrations that this version knows, in order. */
export const MIGRATIONS: readonly string[] = [...sqlOf.keys()];

/**
 * Runs the numbered migrations that this database has not seen.
 * @param names those that may run; all where it is left out
 */
export function migrate(db: Database, names: readonly string[] = MIGRATIONS): Promise<void> {
	return applyMigrations(db, new Map([...sqlOf].filter(([name]) => names.includes(name))));
}
