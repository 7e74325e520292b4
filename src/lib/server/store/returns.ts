import type { PacketReturn, ReturnReason } from '../../core/packet/returned';
import type { Database } from './database';

/** Nothing was handed in after a return `r`, and it was not taken back. */
export const STANDS = `r.taken_back_at is null and not exists (select 1 from delivery d
	where d.packet_id = r.packet_id and d.handed_in_at > r.returned_at and d.state not in ('refused', 'recalled'))`;

export const RETURN = `
	select r.id, r.version, r.reasons, r.words, b.given || ' ' || b.family as by, r.returned_at as at,
		${STANDS} as stands, r.taken_back_at as "takenBackAt"
	from packet_return r join person b on b.id = r.returned_by`;

/** Gives a packet back; a return that still stands is replaced by the new one. */
export function returnPacket(
	db: Database,
	packetId: string,
	given: { version: number; reasons: readonly ReturnReason[]; words: string; by: string }
): Promise<void> {
	return db.transaction(async (tx) => {
		await tx.query(`select 1 from packet where id = $1 for update`, [packetId]);
		await tx.query(`update packet_return r set taken_back_at = now() where r.packet_id = $1 and ${STANDS}`, [
			packetId
		]);
		await tx.query(
			`insert into packet_return (packet_id, version, reasons, words, returned_by)
			values ($1, $2, $3::jsonb, $4, $5)`,
			[packetId, given.version, JSON.stringify(given.reasons), given.words, given.by]
		);
	});
}

/** The returns of a packet, or one of them; latest first. */
export function returnsOf(db: Database, packetId: string, id: string | null = null): Promise<PacketReturn[]> {
	return db.query<PacketReturn>(
		`${RETURN} where r.packet_id = $1 and ($2::uuid is null or r.id = $2::uuid) order by r.returned_at desc`,
		[packetId, id]
	);
}

/** Takes a return back; false where it does not stand any more. */
export async function takeReturnBack(db: Database, packetId: string, id: string): Promise<boolean> {
	const rows = await db.query(
		`update packet_return r set taken_back_at = now()
		where r.id = $2::uuid and r.packet_id = $1 and ${STANDS} returning id`,
		[packetId, id]
	);
	return rows.length > 0;
}

/** What a teacher often gives as a reason in own words, oftenest first. */
export async function usualReasons(db: Database, personId: string): Promise<string[]> {
	const rows = await db.query<{ text: string }>(
		`select reason ->> 'text' as text
		from packet_return r, jsonb_array_elements(r.reasons) reason
		where r.returned_by = $1 and reason ->> 'rule' is null
		group by reason ->> 'text' order by count(*) desc, max(r.returned_at) desc limit 12`,
		[personId]
	);
	return rows.map((r) => r.text);
}
