import { randomBytes } from 'node:crypto';
import type { Database } from '../store/database';
import { addPerson, type NewPerson } from '../store/people';
import {
	addFirstStart,
	foundSchool,
	hasAdministrator,
	renameSchool,
	schoolOf,
	isFirstStart,
	useFirstStart
} from '../store/school';
import { hashOf } from '../store/tokenHash';

/** Milliseconds for which the printed address works. */
const LASTS = 3_600_000;

/**
 * The path of a new one-time address for the first administrator; null where there is one, or where this Membrana is one
 * person's own.
 */
export async function firstStartPath(db: Database): Promise<string | null> {
	if ((await schoolOf(db))?.kind === 'own' || (await hasAdministrator(db))) return null;
	const token = randomBytes(24).toString('base64url');
	await addFirstStart(db, hashOf(token), new Date(Date.now() + LASTS));
	return `/first/${token}`;
}

export async function opensFirstStart(db: Database, token: string): Promise<boolean> {
	return (await isFirstStart(db, hashOf(token))) && !(await hasAdministrator(db));
}

/**
 * Names the school and makes its first administrator, both or neither.
 * @returns the administrator's id; null where the address has been used, or its hour is over
 */
export function beginSchool(
	db: Database,
	token: string,
	school: string,
	person: Omit<NewPerson, 'isAdministrator'>
): Promise<string | null> {
	return db.transaction(async (tx) => {
		if (!(await useFirstStart(tx, hashOf(token))) || (await hasAdministrator(tx))) return null;
		if (!(await foundSchool(tx, { kind: 'school', name: school }))) await renameSchool(tx, school);
		return addPerson(tx, { ...person, isAdministrator: true });
	});
}
