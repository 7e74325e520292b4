import { randomBytes } from 'node:crypto';
import type { RequestEvent } from '@sveltejs/kit';
import type { Database } from '../store/database';
import type { Person } from '../store/people';
import { hashOf } from '../store/tokenHash';
import { addSession, personForSession, removeSession } from '../store/sessions';

export const SESSION_COOKIE = 'membrana-session';
/** Holds what was asked of the identity provider until its answer comes. */
export const QUESTION_COOKIE = 'membrana-question';
const SESSION_SECONDS = 14 * 24 * 3600;

/** Begins a session and returns its token, of which only a hash is kept. */
export async function openSession(db: Database, personId: string, browser = ''): Promise<string> {
	const token = randomBytes(32).toString('base64url');
	const expires = new Date(Date.now() + SESSION_SECONDS * 1000);
	await addSession(db, hashOf(token), personId, { expires, browser });
	return token;
}

/** Begins a session in the browser that asks. */
export async function beginSession(
	db: Database,
	personId: string,
	{ cookies, url, request }: Pick<RequestEvent, 'cookies' | 'url' | 'request'>
): Promise<void> {
	const browser = (request.headers.get('user-agent') ?? '').slice(0, 300);
	cookies.set(SESSION_COOKIE, await openSession(db, personId, browser), {
		path: '/',
		httpOnly: true,
		sameSite: 'lax',
		secure: url.protocol === 'https:',
		maxAge: SESSION_SECONDS
	});
}

export function whoHas(db: Database, token: string): Promise<Person | null> {
	return personForSession(db, hashOf(token));
}

export function endSession(db: Database, token: string): Promise<void> {
	return removeSession(db, hashOf(token));
}
