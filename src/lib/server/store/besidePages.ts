import type { Database } from './database';
import { DELIVERY, type DeliveryRow } from './deliveries';
import { LINK, OPEN, type PhoneLink } from './phoneLinks';
import { SOURCE, type SourceRow } from './sources';
import { TROUBLE, type TroubleRow } from './troubles';

/** What a packet has beside its pages. */
export interface BesidePages {
	/** Latest first. */
	readonly deliveries: readonly DeliveryRow[];
	readonly troubles: readonly TroubleRow[];
	readonly link: PhoneLink | null;
	readonly sources: readonly SourceRow[];
}

/**
 * All that a packet has beside its pages, in one question.
 *
 * @param since of its sources only those that are newer than this count of news
 */
export async function besidePages(db: Database, packetId: string, since = -1): Promise<BesidePages> {
	const listed = (sql: string) => `(select coalesce(json_agg(x), '[]') from (${sql}) x)`;
	const rows = await db.query<BesidePages>(
		`select ${listed(`${DELIVERY} where d.packet_id = $1 order by d.handed_in_at desc`)} as deliveries,
			${listed(`${TROUBLE} where packet_id = $1 order by at`)} as troubles,
			(select to_json(x) from (${LINK} where packet_id = $1 and ${OPEN} limit 1) x) as link,
			${listed(`${SOURCE} where packet_id = $1 and news > $2 order by batch, place, received_at`)} as sources`,
		[packetId, since]
	);
	return rows[0]!;
}
