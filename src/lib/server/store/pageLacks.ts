import type { Database } from './database';
import { keepKeyed } from './pageKeys';
import { rosterKeyOf } from './pageNames';
import type { PagesOf } from './pageRecords';
import { tonesKey } from './weights';

/** What there is of a page and what not, without any of it. */
export interface PageLack {
	readonly id: string;
	readonly key: string;
	readonly readingKey: string;
	/** Why its picture cannot be used. */
	readonly problem: string | null;
	/** Whether anything was found of its picture, and whether it is known which way is up. */
	readonly seen: boolean;
	readonly turned: boolean;
	readonly prepared: boolean;
	readonly bytes: number | null;
	readonly read: 'not' | 'starts' | 'whole';
	readonly weighed: boolean;
	/** Whether its name was looked for in the course's present roster. */
	readonly nameMatched: boolean;
}

/** What pages of a packet lack. Many are asked in one breath, so nothing heavy is loaded. */
export async function pageLacks(db: Database, of: PagesOf): Promise<PageLack[]> {
	await keepKeyed(db, of);
	// In one value: that is quicker than hundreds of rows.
	const rows = await db.query<{ all: PageLack[] }>(
		`select coalesce(json_agg(x), '[]') as all from (select k.page_id as id, k.prepared_key as key, k.reading_key as "readingKey", p.problem,
			p.facts is not null as seen, p.turned, m.key is not null as prepared,
			m.bytes, w.key is not null as weighed, n.reading_key is not null as "nameMatched",
			case when r.key is null then 'not' when r.starts_only then 'starts' else 'whole' end as read
		from packet_page k
		left join picture p on p.source_id = k.source_id and p.index = k.source_page
		left join prepared m on m.key = k.prepared_key
		left join weighed w on w.key = k.prepared_key and w.tones = $2
		left join reading r on r.key = k.reading_key
		left join page_name n on n.reading_key = k.reading_key and n.roster_key = ${rosterKeyOf('$3')}
		where k.packet_id = $1) x`,
		[of.id, tonesKey(of.tones), of.courseId]
	);
	return rows[0]!.all;
}
