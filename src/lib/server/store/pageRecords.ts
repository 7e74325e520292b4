import { fuseRecognition } from '../../core/legibility/fuseRecognition';
import type { PageRecord } from '../../core/page/pageRecord';
import type { PageFacts } from '../../core/page/preparePage';
import type { Page } from '../../core/packet/packet';
import type { ToneName } from '../../core/tone/tone';
import type { SourceType } from '../codec/sniff';
import type { Assignment } from './assignments';
import type { Database } from './database';
import { rosterKeyOf } from './pageNames';
import { keepKeyed, newerPages } from './pageKeys';
import type { PacketHead, PacketRow } from './packets';
import { tonesKey } from './weights';

/** A page's record with what only the server needs to know, but for what a person set of it. */
export interface KnownPage extends Omit<PageRecord, 'otherPerson'> {
	readonly readingKey: string;
	readonly source: { readonly sha256: string; readonly type: SourceType | null };
	/** Whether its name was looked for in the course's present roster. */
	readonly nameMatched: boolean;
}

/** A page's record with the page itself. */
export interface StoredPage extends KnownPage {
	readonly page: Page;
}

/** What decides where the records of a packet's pages are found. */
export type PagesOf = Pick<PacketHead, 'id' | 'keyedBy' | 'courseId' | 'tones' | 'sheetVersion'>;

/** Which pages of a packet: these, those of which something is newer than a count of news, or all. */
export type Which =
	| { readonly ids: readonly string[]; readonly since?: undefined }
	| { readonly since: number; readonly ids?: undefined }
	| { readonly ids?: undefined; readonly since?: undefined };

interface Row extends Omit<KnownPage, 'source' | 'takenAt' | 'prepared'> {
	readonly id: string;
	readonly sha256: string;
	readonly type: SourceType | null;
	readonly takenAt: string | null;
	readonly facts: PageFacts | null;
}

/** What is known of pages, by their ids; of some that went a moment ago too. */
export async function knownPages(
	db: Database,
	of: PagesOf,
	{ ids, since }: Which = {}
): Promise<Record<string, KnownPage>> {
	await keepKeyed(db, of);
	const some = ids
		? 'any(array(select jsonb_array_elements_text($4::jsonb)))'
		: since === undefined
			? null
			: newerPages('$1', '$4');
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
		left join page_name n on n.reading_key = k.reading_key and n.roster_key = ${rosterKeyOf('$3')}
		where k.packet_id = $1 ${some ? `and k.page_id = ${some}` : ''}`,
		[
			of.id,
			tonesKey(of.tones),
			of.courseId,
			...(ids ? [JSON.stringify(ids)] : since === undefined ? [] : [since])
		]
	);
	return Object.fromEntries(
		rows.map(({ id, sha256, type, takenAt, facts, reading, ...known }): [string, KnownPage] => [
			id,
			{
				...known,
				reading,
				prepared: facts && reading && !reading.startsOnly ? fuseRecognition(facts, reading.lines) : facts,
				source: { sha256, type },
				takenAt: takenAt === null ? null : Date.parse(takenAt)
			}
		])
	);
}

/** The pages of a packet with what is known of them, by their ids. */
export async function pageRecords(
	db: Database,
	packet: PacketRow,
	assignment: Assignment,
	which: Which = {}
): Promise<Record<string, StoredPage>> {
	const known = await knownPages(db, pagesOf(packet, assignment), which);
	return Object.fromEntries(
		Object.entries(known).flatMap(([id, record]): [string, StoredPage][] => {
			const page = packet.state.pages[id];
			return page ? [[id, { ...record, page }]] : [];
		})
	);
}

export function pagesOf(
	{ id, keyedBy }: Pick<PacketRow, 'id' | 'keyedBy'>,
	{ courseId, ruleSheet, version }: Assignment
): PagesOf {
	return { id, keyedBy, courseId, tones: ruleSheet.tone, sheetVersion: version };
}

/** Where a page's pictures lie. */
export interface StoredPictures extends Pick<PacketHead, 'personId' | 'kind' | 'role'> {
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
			t.person_id as "personId", t.kind, e.role
		from packet_page k
		join packet t on t.id = k.packet_id
		join assignment a on a.id = t.assignment_id
		join source s on s.id = k.source_id
		left join enrolled e on e.course_id = a.course_id and e.person_id = $2
		where k.packet_id = $1 and ${source ? 'k.source_id = $3 and k.source_page = $4' : 'k.prepared_key = $3'} limit 1`,
		source ? [packetId, meId, source[1], Number(source[2])] : [packetId, meId, key]
	);
	return rows[0] ?? null;
}
