import type { Database } from './database';
import { keepKeyed, newerPages } from './pageKeys';
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

/** All that what a packet's pages lack may come from. Where only its news differ, only pages that are newer do. */
export interface LacksAt {
	readonly version: number;
	readonly news: number;
	/** See `keyedBy`. */
	readonly keyedBy: string | null;
	readonly sheetVersion: number;
	/** See `rosterKey`. */
	readonly roster: string;
}

/** Null when the packet is not there any more. */
export async function lacksAt(db: Database, packetId: string): Promise<LacksAt | null> {
	const rows = await db.query<LacksAt>(
		`select t.version, t.news::float8 as news, t.keyed_by as "keyedBy", a.version as "sheetVersion",
			${rosterKeyOf('a.course_id')} as roster
		from packet t join assignment a on a.id = t.assignment_id where t.id = $1`,
		[packetId]
	);
	return rows[0] ?? null;
}

/**
 * What pages of a packet lack. Many are asked in one breath, so nothing heavy is loaded.
 *
 * @param roster that names have to be looked for in: see `rosterKey`
 * @param since only of pages of which something is newer than this count of news
 */
export async function pageLacks(
	db: Database,
	of: Omit<PagesOf, 'courseId'>,
	roster: string,
	since?: number
): Promise<PageLack[]> {
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
		left join page_name n on n.reading_key = k.reading_key and n.roster_key = $3
		where k.packet_id = $1 ${since === undefined ? '' : `and k.page_id = ${newerPages('$1', '$4')}`}) x`,
		[of.id, tonesKey(of.tones), roster, ...(since === undefined ? [] : [since])]
	);
	return rows[0]!.all;
}
