import type { Database } from './database';
import { PERSON, type Person } from './people';

/** Who has a session. */
export async function personForSession(db: Database, tokenHash: string): Promise<Person | null> {
	const rows = await db.query<Person>(
		`${PERSON} join session s on s.person_id = p.id
		where s.token_hash = $1 and s.expires_at > now() and p.archived_at is null`,
		[tokenHash]
	);
	return rows[0] ?? null;
}

export async function addSession(
	db: Database,
	tokenHash: string,
	personId: string,
	{ expires, browser }: { readonly expires: Date; readonly browser: string }
): Promise<void> {
	await db.query('delete from session where expires_at < now()');
	await db.query('insert into session (token_hash, person_id, expires_at, browser) values ($1, $2, $3, $4)', [
		tokenHash,
		personId,
		expires.toISOString(),
		browser
	]);
}

export async function removeSession(db: Database, tokenHash: string): Promise<void> {
	await db.query('delete from session where token_hash = $1', [tokenHash]);
}

/** A session as its person sees it. */
export interface SessionRow {
	readonly id: string;
	readonly browser: string;
	readonly begunAt: string;
	readonly isThis: boolean;
}

export function sessionsOf(db: Database, personId: string, tokenHash: string): Promise<SessionRow[]> {
	return db.query<SessionRow>(
		`select id, browser, begun_at as "begunAt", token_hash = $2 as "isThis" from session
		where person_id = $1 and expires_at > now() order by begun_at desc`,
		[personId, tokenHash]
	);
}

/** Ends one of a person's sessions, or all but one. */
export async function endSessionsOf(
	db: Database,
	personId: string,
	which: { readonly id: string } | { readonly allBut: string | null }
): Promise<void> {
	if ('id' in which)
		await db.query('delete from session where person_id = $1 and id::text = $2', [personId, which.id]);
	else
		await db.query(`delete from session where person_id = $1 and token_hash is distinct from $2`, [
			personId,
			which.allBut
		]);
}
