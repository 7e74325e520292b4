import type { Database } from './database';

export type Role = 'teacher' | 'student';

export interface Person {
	readonly id: string;
	readonly login: string;
	readonly given: string;
	readonly family: string;
	readonly email: string | null;
	/** The roles this person has, in any course. */
	readonly roles: readonly Role[];
}

const PERSON = `
	select p.id, p.login, p.given, p.family, p.email,
		coalesce((select json_agg(distinct e.role) from enrolment e where e.person_id = p.id), '[]') as roles
	from person p`;

export async function personById(db: Database, id: string): Promise<Person | null> {
	return (await db.query<Person>(`${PERSON} where p.id = $1`, [id]))[0] ?? null;
}

export async function personByLogin(
	db: Database,
	login: string
): Promise<{ id: string; passwordHash: string } | null> {
	const rows = await db.query<{ id: string; passwordHash: string }>(
		'select id, password_hash as "passwordHash" from person where login = $1',
		[login.trim().toLowerCase()]
	);
	return rows[0] ?? null;
}

export async function addPerson(
	db: Database,
	person: { login: string; given: string; family: string; passwordHash: string; email?: string }
): Promise<string> {
	const rows = await db.query<{ id: string }>(
		'insert into person (login, given, family, password_hash, email) values ($1, $2, $3, $4, $5) returning id',
		[person.login.toLowerCase(), person.given, person.family, person.passwordHash, person.email ?? null]
	);
	return rows[0]!.id;
}

export async function personForSession(db: Database, tokenHash: string): Promise<Person | null> {
	const rows = await db.query<Person>(
		`${PERSON} join session s on s.person_id = p.id where s.token_hash = $1 and s.expires_at > now()`,
		[tokenHash]
	);
	return rows[0] ?? null;
}

export async function addSession(
	db: Database,
	tokenHash: string,
	personId: string,
	expires: Date
): Promise<void> {
	await db.query('delete from session where expires_at < now()');
	await db.query('insert into session (token_hash, person_id, expires_at) values ($1, $2, $3)', [
		tokenHash,
		personId,
		expires.toISOString()
	]);
}

export async function removeSession(db: Database, tokenHash: string): Promise<void> {
	await db.query('delete from session where token_hash = $1', [tokenHash]);
}
