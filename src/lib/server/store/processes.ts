import type { Database } from './database';

/** Seconds after which a process that was not seen counts as dead. */
const DEAD_AFTER = 20;

/** Says that a process is alive, and forgets those long dead. */
export async function seeProcess(db: Database, id: string): Promise<void> {
	await db.query(`insert into process (id) values ($1) on conflict (id) do update set seen_at = now()`, [id]);
	await db.query(`delete from process where seen_at < now() - interval '1 day'`);
}

export async function forgetProcess(db: Database, id: string): Promise<void> {
	await db.query('delete from process where id = $1', [id]);
}

/** Notes who works on jobs. */
export async function holdJobs(db: Database, process: string, jobs: readonly string[]): Promise<void> {
	await db.query(
		`update pgboss.job set output = jsonb_build_object('by', $1::text)
		where id in (select value::uuid from jsonb_array_elements_text($2::jsonb))`,
		[process, JSON.stringify(jobs)]
	);
}

/** Puts jobs back whose process has died, or that this very process held before it was started again. */
export async function freeJobs(db: Database): Promise<void> {
	await db.query(
		`update pgboss.job set state = 'retry', start_after = now()
		where state = 'active' and output ->> 'by' is not null and not exists (
			select from process p where p.id::text = output ->> 'by'
			and p.seen_at > now() - make_interval(secs => ${DEAD_AFTER}))`
	);
}
