import { randomBytes } from 'node:crypto';
import type { Database } from './database';
import { hashOf } from './tokenHash';

export interface PhoneLink {
	readonly id: string;
	readonly packetId: string;
	readonly personId: string;
	readonly expiresAt: string;
}

/** How long a link lives. */
export const PHONE_LINK_MINUTES = 30;

/** 16 random bytes in base64url: what stands in the address. */
const TOKEN = /^[A-Za-z0-9_-]{22}$/;

export const LINK = `
	select id, packet_id as "packetId", person_id as "personId",
		to_char(expires_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"') as "expiresAt"
	from phone_link`;
export const OPEN = 'ended_at is null and expires_at > now()';

/** Makes a link for a packet and ends the one before it. Returns the token, which is kept nowhere. */
export async function makePhoneLink(
	db: Database,
	packetId: string,
	personId: string
): Promise<{ token: string; link: PhoneLink }> {
	const token = randomBytes(16).toString('base64url');
	return db.transaction(async (tx) => {
		await endPhoneLinks(tx, packetId);
		await tx.query(
			`insert into phone_link (packet_id, person_id, token_hash, expires_at)
			values ($1, $2, $3, now() + $4::int * interval '1 minute')`,
			[packetId, personId, hashOf(token), PHONE_LINK_MINUTES]
		);
		return { token, link: (await phoneLinkByToken(tx, token))! };
	});
}

/** The open link with this token. */
export async function phoneLinkByToken(db: Database, token: string): Promise<PhoneLink | null> {
	if (!TOKEN.test(token)) return null;
	return (await db.query<PhoneLink>(`${LINK} where token_hash = $1 and ${OPEN}`, [hashOf(token)]))[0] ?? null;
}

export async function endPhoneLinks(db: Database, packetId: string): Promise<void> {
	await db.query(`update phone_link set ended_at = now() where packet_id = $1 and ${OPEN}`, [packetId]);
}
