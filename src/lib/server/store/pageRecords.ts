import { afterReading } from '../../core/legibility/afterReading';
import type { PageRecord } from '../../core/page/pageRecord';
import type { PageFacts } from '../../core/page/preparePage';
import type { Page } from '../../core/packet/packet';
import type { ToneName } from '../../core/tone/tone';
import type { SourceType } from '../codec/sniff';
import type { Assignment } from './assignments';
import type { Database } from './database';
import { rosterKey } from './pageNames';
import { keyAllPages, keyedBy } from './pageKeys';
import type { PacketHead, PacketRow } from './packets';
import { tonesKey } from './weights';

/** A page's record with what only the server needs to know. */
export interface StoredPage extends Omit<PageRecord, 'otherPerson'> {
	readonly page: Page;
	readonly readingKey: string;
	readonly source: { readonly sha256: string; readonly type: SourceType | null };
	/** Whether its name was looked for in the course's present roster. */
	readonly nameMatched: boolean;
}

/** Which pages of a packet: these, those of which something is newer than a count of news, or all. */
export interface Which {
	readonly ids?: readonly string[];
	readonly since?: number;
}

interface Row extends Omit<StoredPage, 'page' | 'source' | 'takenAt' | 'prepared'> {
	readonly id: string;
	readonly sha256: string;
	readonly type: SourceType | null;
	readonly takenAt: string | null;
	readonly facts: PageFacts | null;
}

/** What is known of pages of a packet, by their ids. */
export async function pageRecords(
	db: Database,
	packet: PacketRow,
	{ courseId, ruleSheet, version }: Pick<Assignment, 'courseId' | 'ruleSheet' | 'version'>,
	{ ids, since }: Which = {}
): Promise<Record<string, StoredPage>> {
	if (packet.keyedBy !== keyedBy(version)) await keyAllPages(db, packet.id);
	const rows = await db.query<Row>(
		`select k.page_id as id, k.prepared_key as key, k.reading_key as "readingKey", s.name as "sourceName", s.sha256,
			s.type, s.taken_at as "takenAt", p.facts as picture, p.problem, m.facts, m.bytes, w.weights, r.reading, n.name,
			n.reading_key is not null as "nameMatched"
		from packet_page k
		join source s on s.id = k.source_id
		left join picture p on p.source_id = k.source_id and p.index = k.source_page
		left join prepared m on m.key = k.prepared_key
		left join weighed w on w.key = k.prepared_key and w.tones = $2
		left join reading r on r.key = k.reading_key
		left join page_name n on n.reading_key = k.reading_key and n.roster_key = $3
		where k.packet_id = $1 and k.news > $4
			and ($5::jsonb is null or k.page_id in (select jsonb_array_elements_text($5::jsonb)))`,
		[
			packet.id,
			tonesKey(ruleSheet.tone),
			await rosterKey(db, courseId),
			since ?? -1,
			ids ? JSON.stringify(ids) : null
		]
	);
	return Object.fromEntries(
		rows.flatMap(({ id, sha256, type, takenAt, facts, reading, ...known }): [string, StoredPage][] => {
			const page = packet.state.pages[id];
			if (!page) return [];
			const prepared = facts && reading && !reading.startsOnly ? afterReading(facts, reading.lines) : facts;
			return [
				[
					id,
					{
						...known,
						page,
						reading,
						prepared,
						source: { sha256, type },
						takenAt: takenAt === null ? null : Date.parse(takenAt)
					}
				]
			];
		})
	);
}

/** Where a page's pictures lie. */
export interface StoredPictures extends PacketHead {
	readonly pageId: string;
	readonly key: string;
	readonly tone: ToneName;
	readonly sha256: string;
	readonly sourcePage: number;
}

/**
 * The page of a packet that has pictures under a key, with what tells whether somebody may see them: one row.
 *
 * @param key of the prepared page, or `SOURCE-INDEX` for the picture that it was made from
 */
export async function picturesUnder(
	db: Database,
	packetId: string,
	key: string,
	meId: string
): Promise<StoredPictures | null> {
	const source = /^([0-9a-f-]{36})-(\d{1,5})$/.exec(key);
	const rows = await db.query<StoredPictures>(
		`select k.page_id as "pageId", k.prepared_key as key, k.tone, s.sha256, k.source_page as "sourcePage",
			t.person_id as "personId", e.role
		from packet_page k
		join packet t on t.id = k.packet_id
		join assignment a on a.id = t.assignment_id
		join source s on s.id = k.source_id
		left join enrolment e on e.course_id = a.course_id and e.person_id = $2
		where k.packet_id = $1 and ${source ? 'k.source_id = $3 and k.source_page = $4' : 'k.prepared_key = $3'} limit 1`,
		source ? [packetId, meId, source[1], Number(source[2])] : [packetId, meId, key]
	);
	return rows[0] ?? null;
}
