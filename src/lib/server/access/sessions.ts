import { createHash, randomBytes } from 'node:crypto';
import type { Database } from '../store/database';
import { addSession, personForSession, removeSession, type Person } from '../store/people';

export const SESSION_COOKIE = 'membrana-session';
export const SESSION_SECONDS = 14 * 24 * 3600;

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

/** Begins a session and returns the token for the cookie; only its hash is kept. */
export async function beginSession(db: Database, personId: string): Promise<string> {
	const token = randomBytes(32).toString('base64url');
	await addSession(db, hashOf(token), personId, new Date(Date.now() + SESSION_SECONDS * 1000));
	return token;
}

export function whoHas(db: Database, token: string): Promise<Person | null> {
	return personForSession(db, hashOf(token));
}

export function endSession(db: Database, token: string): Promise<void> {
	return removeSession(db, hashOf(token));
}
