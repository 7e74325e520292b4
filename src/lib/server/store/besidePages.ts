import type { PacketReturn } from '../../core/packet/returned';
import type { Database } from './database';
import { DELIVERY, type DeliveryRow } from './deliveries';
import { LINK, OPEN, type PhoneLink } from './phoneLinks';
import { RETURN } from './returns';
import { SOURCE, type SourceRow } from './sources';
import { TROUBLE, type TroubleRow } from './troubles';

/** What a packet has beside its pages. */
export interface BesidePages {
	/** Latest first. */
	readonly deliveries: readonly DeliveryRow[];
	readonly troubles: readonly TroubleRow[];
	readonly link: PhoneLink | null;
	readonly sources: readonly SourceRow[];
	/** Latest first. */
	readonly returns: readonly PacketReturn[];
	readonly moreTime: string | null;
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
			${listed(`${SOURCE} where packet_id = $1 and news > $2 order by batch, place, received_at`)} as sources,
			${listed(`${RETURN} where r.packet_id = $1 order by r.returned_at desc`)} as returns,
			(select m.due from packet p join more_time m on m.assignment_id = p.assignment_id and m.person_id = p.person_id
				where p.id = $1) as "moreTime"`,
		[packetId, since]
	);
	return rows[0]!;
}
