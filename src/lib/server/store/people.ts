import type { Database } from './database';

/** `own`: writes the rules and answers them, in a course of nobody else's. */
export type Role = 'teacher' | 'student' | 'own';

export interface Person {
	readonly id: string;
	readonly login: string;
	readonly given: string;
	readonly family: string;
	readonly email: string | null;
	readonly isAdministrator: boolean;
	/** The roles this person has, in any course. */
	readonly roles: readonly Role[];
}

/** SQL for people; goes on with a join or a condition on `p`. */
export const PERSON = `
	select p.id, p.login, p.given, p.family, p.email, p.is_administrator as "isAdministrator",
		coalesce((select json_agg(distinct e.role) from enrolled e where e.person_id = p.id), '[]') as roles
	from person p`;

export async function personById(db: Database, id: string): Promise<Person | null> {
	return (await db.query<Person>(`${PERSON} where p.id = $1`, [id]))[0] ?? null;
}

export async function personByLogin(
	db: Database,
	login: string
): Promise<{ id: string; passwordHash: string | null } | null> {
	const rows = await db.query<{ id: string; passwordHash: string | null }>(
		'select id, password_hash as "passwordHash" from person where login = $1 and archived_at is null',
		[login.trim().toLowerCase()]
	);
	return rows[0] ?? null;
}

export interface NewPerson {
	readonly login: string;
	readonly given: string;
	readonly family: string;
	/** Null: no way in before an invitation. */
	readonly passwordHash: string | null;
	readonly email?: string | null;
	readonly identifier?: string | null;
	readonly isAdministrator?: boolean;
}

export async function addPerson(db: Database, person: NewPerson): Promise<string> {
	const rows = await db.query<{ id: string }>(
		`insert into person (login, given, family, password_hash, email, identifier, is_administrator)
		values ($1, $2, $3, $4, $5, $6, $7) returning id`,
		[
			person.login.trim().toLowerCase(),
			person.given,
			person.family,
			person.passwordHash,
			person.email ?? null,
			person.identifier ?? null,
			person.isAdministrator ?? false
		]
	);
	return rows[0]!.id;
}

/** The only person of a Membrana that is one person's own. */
export async function onlyPerson(db: Database): Promise<Person | null> {
	return (await db.query<Person>(`${PERSON} order by p.created_at limit 1`))[0] ?? null;
}

export async function renamePerson(db: Database, id: string, given: string, family: string): Promise<void> {
	await db.query('update person set given = $2, family = $3 where id = $1', [id, given, family]);
}

export async function setPassword(db: Database, id: string, passwordHash: string): Promise<void> {
	await db.query('update person set password_hash = $2 where id = $1', [id, passwordHash]);
}

export async function passwordHashOf(db: Database, id: string): Promise<string | null> {
	const rows = await db.query<{ hash: string | null }>(
		'select password_hash as hash from person where id = $1',
		[id]
	);
	return rows[0]?.hash ?? null;
}

export interface PersonRow {
	readonly id: string;
	readonly login: string;
	readonly given: string;
	readonly family: string;
	readonly email: string | null;
	readonly identifier: string | null;
	readonly isAdministrator: boolean;
	readonly isArchived: boolean;
	readonly hasPassword: boolean;
	/** Codes of the courses they are in. */
	readonly courses: readonly string[];
}

/** People whose names, sign-in name, address or number hold the words, in a window. */
export async function findPeople(
	db: Database,
	words: string,
	{ from, most }: { readonly from: number; readonly most: number }
): Promise<{ readonly people: PersonRow[]; readonly all: number }> {
	const patterns = words
		.trim()
		.split(/\s+/)
		.filter(Boolean)
		.map((word) => `%${word.replace(/[\\%_]/g, '\\$&')}%`);
	const rows = await db.query<PersonRow & { all: number }>(
		`select p.id, p.login, p.given, p.family, p.email, p.identifier, p.is_administrator as "isAdministrator",
			p.archived_at is not null as "isArchived", p.password_hash is not null as "hasPassword",
			coalesce((select json_agg(c.code order by c.code) from enrolled e join course c on c.id = e.course_id
				where e.person_id = p.id), '[]') as courses,
			count(*) over ()::int as all
		from person p
		where concat_ws(' ', p.given, p.family, p.login, p.email, p.identifier) ilike all ($1::text[])
		order by p.archived_at is not null, p.family, p.given, p.id offset $2 limit $3`,
		[patterns, from, most]
	);
	return { people: rows.map(({ all: _, ...person }) => person), all: rows[0]?.all ?? 0 };
}

/** Whether a sign-in name is taken. */
export async function isLoginTaken(db: Database, login: string): Promise<boolean> {
	return (await db.query('select 1 from person where login = $1', [login.toLowerCase()])).length > 0;
}

/** Ends a person's way in, or opens it again; what they handed in stays. */
export async function archivePerson(db: Database, id: string, archived: boolean): Promise<void> {
	await db.query('update person set archived_at = case when $2 then now() end where id = $1', [id, archived]);
	if (archived) await db.query('delete from session where person_id = $1', [id]);
}

export async function makeAdministrator(db: Database, id: string, is: boolean): Promise<void> {
	await db.query('update person set is_administrator = $2 where id = $1', [id, is]);
}

/** Somebody by sign-in name, mail address or number, for adding to a course. */
export async function personCalled(db: Database, called: string): Promise<Person | null> {
	const rows = await db.query<Person>(
		`${PERSON} where p.archived_at is null and (p.login = $1 or lower(p.email) = $1 or p.identifier = $2)
		order by p.login = $1 desc limit 1`,
		[called.trim().toLowerCase(), called.trim()]
	);
	return rows[0] ?? null;
}

export async function isArchived(db: Database, id: string): Promise<boolean> {
	return (await db.query('select 1 from person where id = $1 and archived_at is not null', [id])).length > 0;
}

/** Whom a roster calls by this identifier. */
export async function personByIdentifier(db: Database, identifier: string): Promise<Person | null> {
	const rows = await db.query<Person>(`${PERSON} where p.identifier = $1 and p.archived_at is null`, [
		identifier
	]);
	return rows[0] ?? null;
}
