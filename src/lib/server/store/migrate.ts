import type { Database } from './database';

const files = import.meta.glob('./migrations/*.sql', { query: '?raw', import: 'default', eager: true });

/** Runs the numbered migrations that this database has not seen, each in a transaction. */
export async function migrate(db: Database): Promise<void> {
	await db.script(
		'create table if not exists migration (name text primary key, run_at timestamptz not null default now())'
	);
	const done = new Set((await db.query<{ name: string }>('select name from migration')).map((r) => r.name));
	for (const path of Object.keys(files).sort()) {
		const name = path.split('/').at(-1)!;
		if (done.has(name)) continue;
		await db.transaction(async (tx) => {
			await tx.script(files[path] as string);
			await tx.query('insert into migration (name) values ($1)', [name]);
		});
	}
}
