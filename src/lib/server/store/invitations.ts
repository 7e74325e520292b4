import type { Database } from './database';

export type InvitationWay = 'mail' | 'slip';

export interface InvitedPerson {
	readonly id: string;
	readonly login: string;
	readonly given: string;
	readonly family: string;
	/** Whether they have been in before: then it is a new password. */
	readonly hasPassword: boolean;
}

const PERSON = `p.id, p.login, p.given, p.family, p.password_hash is not null as "hasPassword"`;
const OPEN = 'i.code_hash = $1 and i.used_at is null and i.expires_at > now() and p.archived_at is null';

export async function addInvitation(
	db: Database,
	made: {
		readonly codeHash: string;
		readonly personId: string;
		readonly by: InvitationWay;
		readonly madeBy: string | null;
		readonly expires: Date;
	}
): Promise<void> {
	await db.query('delete from invitation where person_id = $1 and by = $2 and used_at is null', [
		made.personId,
		made.by
	]);
	await db.query(
		'insert into invitation (code_hash, person_id, by, made_by, expires_at) values ($1, $2, $3, $4, $5)',
		[made.codeHash, made.personId, made.by, made.madeBy, made.expires.toISOString()]
	);
}

export async function invitedPerson(db: Database, codeHash: string): Promise<InvitedPerson | null> {
	const rows = await db.query<InvitedPerson>(
		`select ${PERSON} from invitation i join person p on p.id = i.person_id where ${OPEN}`,
		[codeHash]
	);
	return rows[0] ?? null;
}

export function useInvitation(
	db: Database,
	codeHash: string,
	passwordHash: string
): Promise<InvitedPerson | null> {
	return db.transaction(async (tx) => {
		const [person] = await tx.query<InvitedPerson>(
			`update invitation i set used_at = now() from person p where p.id = i.person_id and ${OPEN} returning ${PERSON}`,
			[codeHash]
		);
		if (!person) return null;
		await tx.query('update person set password_hash = $2 where id = $1', [person.id, passwordHash]);
		await tx.query('delete from invitation where person_id = $1 and used_at is null', [person.id]);
		await tx.query('delete from session where person_id = $1', [person.id]);
		return person;
	});
}
