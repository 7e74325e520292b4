import type { Database } from './database';

/** Whose Membrana this is: a school's, or one person's own. */
export interface School {
	readonly kind: 'school' | 'own';
	readonly name: string;
}

/** Null before the first start. */
export async function schoolOf(db: Database): Promise<School | null> {
	return (await db.query<School>('select kind, name from school'))[0] ?? null;
}

/** Says whose this is; false where that is settled already. */
export async function foundSchool(db: Database, { kind, name }: School): Promise<boolean> {
	const rows = await db.query(
		'insert into school (kind, name) values ($1, $2) on conflict do nothing returning kind',
		[kind, name]
	);
	return rows.length > 0;
}

export async function renameSchool(db: Database, name: string): Promise<void> {
	await db.query('update school set name = $1', [name]);
}

export async function hasAdministrator(db: Database): Promise<boolean> {
	const rows = await db.query('select 1 from person where is_administrator and archived_at is null limit 1');
	return rows.length > 0;
}

export async function addFirstStart(db: Database, tokenHash: string, expires: Date): Promise<void> {
	await db.query('delete from first_start where expires_at < now()');
	await db.query('insert into first_start (token_hash, expires_at) values ($1, $2)', [
		tokenHash,
		expires.toISOString()
	]);
}

export async function isFirstStart(db: Database, tokenHash: string): Promise<boolean> {
	const rows = await db.query('select 1 from first_start where token_hash = $1 and expires_at > now()', [
		tokenHash
	]);
	return rows.length > 0;
}

/** Uses an address up, and all others with it; false where somebody else was faster. */
export async function useFirstStart(db: Database, tokenHash: string): Promise<boolean> {
	const used = await db.query(
		'delete from first_start where token_hash = $1 and expires_at > now() returning token_hash',
		[tokenHash]
	);
	if (used.length > 0) await db.query('delete from first_start');
	return used.length > 0;
}
