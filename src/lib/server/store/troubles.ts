import type { JobName, Jobs } from '../work/kinds';
import type { Database } from './database';

/** A job that failed for good. */
export interface TroubleRow<Name extends JobName = JobName> {
	readonly id: string;
	/** Null where it belongs to no packet. */
	readonly packetId: string | null;
	readonly job: Name;
	readonly data: Jobs[Name];
	/** A sentence for people. */
	readonly problem: string;
	readonly at: string;
}

export const TROUBLE = `select id, packet_id as "packetId", job, data, problem, at from trouble`;

/** Notes it; the same job with the same data has one note. */
export async function addTrouble<Name extends JobName>(
	db: Database,
	packetId: string | null,
	job: Name,
	data: Jobs[Name],
	problem: string
): Promise<void> {
	await db.query(
		`insert into trouble (packet_id, job, data, problem) values ($1, $2, $3::jsonb, $4)
		on conflict (job, data) do update set problem = excluded.problem, at = now()`,
		[packetId, job, JSON.stringify(data), problem]
	);
}

export function troublesOf(db: Database, packetId: string): Promise<TroubleRow[]> {
	return db.query<TroubleRow>(`${TROUBLE} where packet_id = $1 order by at`, [packetId]);
}

export async function troubleById(db: Database, id: string): Promise<TroubleRow | null> {
	return (await db.query<TroubleRow>(`${TROUBLE} where id = $1`, [id]))[0] ?? null;
}

/** Takes a note away, such as when its job is asked for again. */
export async function removeTrouble(db: Database, id: string): Promise<void> {
	await db.query('delete from trouble where id = $1', [id]);
}
