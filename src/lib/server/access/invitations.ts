import { randomInt } from 'node:crypto';
import type { Database } from '../store/database';
import {
	addInvitation,
	invitedPerson,
	useInvitation,
	type InvitationWay,
	type InvitedPerson
} from '../store/invitations';
import { hashOf } from '../store/tokenHash';

/** Without letters that are taken for others. */
const LETTERS = '0123456789ABCDEFGHJKMNPQRSTVWXYZ';
const GROUPS = 3;
const GROUP = 4;

/** Days for which a code works: a letter is read, a slip may lie in a bag; a new password is asked for when it is needed. */
const DAYS: Readonly<Record<InvitationWay, number>> = { mail: 14, slip: 60 };

/** A way in that works once. */
export interface Invitation {
	/** In groups, as it is typed: "7KQM-02XD-9RTA". Kept nowhere. */
	readonly code: string;
	readonly expires: Date;
}

/** Makes a way in for a person; those before it by the same way end. */
export async function invite(
	db: Database,
	personId: string,
	by: InvitationWay,
	madeBy: string | null
): Promise<Invitation> {
	const letters = Array.from({ length: GROUPS * GROUP }, () => LETTERS[randomInt(LETTERS.length)]!).join('');
	const code = letters.match(/.{4}/g)!.join('-');
	const expires = new Date(Date.now() + DAYS[by] * 86_400_000);
	await addInvitation(db, { codeHash: hashOf(asTyped(code)), personId, by, madeBy, expires });
	return { code, expires };
}

/** Whom a code lets in; null for one that was used, ran out, or never was. */
export function whoIsInvited(db: Database, code: string): Promise<InvitedPerson | null> {
	return invitedPerson(db, hashOf(asTyped(code)));
}

/**
 * Uses a code up and sets the password; the person's sessions, and their other ways in, end.
 * @returns whom it lets in; null where somebody was faster, or it has run out
 */
export function comeIn(db: Database, code: string, passwordHash: string): Promise<InvitedPerson | null> {
	return useInvitation(db, hashOf(asTyped(code)), passwordHash);
}

/** A code as it was made, however it was typed. */
function asTyped(code: string): string {
	return code
		.toUpperCase()
		.replace(/O/g, '0')
		.replace(/[IL]/g, '1')
		.replace(/U/g, 'V')
		.replace(/[^0-9A-Z]/g, '');
}
