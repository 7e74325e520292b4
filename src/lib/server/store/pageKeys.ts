import type { Packet, Page } from '../../core/packet/packet';
import { turnOf, type FoundTurns } from '../../core/page/effective';
import type { RuleSheet } from '../../core/rules/ruleSheet';
import type { Turn } from '../../core/sheet/turn';
import { usualTone } from '../../core/tone/usualTone';
import { PIPELINE, preparedKey, READER, readingKey } from './derivedKeys';
import type { Database } from './database';

/** What keys are made by: where it is another, all pages have other keys. */
export function keyedBy(sheetVersion: number): string {
	return `${PIPELINE}.${READER}.${sheetVersion}`;
}

/** A packet as far as its pages' keys come from it. */
export interface KeyedPacket extends Pick<Packet, 'pages'> {
	readonly id: string;
	readonly assignmentId: string;
}

/** Counts one more piece of news of a packet, which is held until the transaction ends: nobody counts past it. */
export async function countNews(tx: Database, packetId: string): Promise<number> {
	const rows = await tx.query<{ news: number }>(
		'update packet set news = news + 1 where id = $1 returning news::float8 as news',
		[packetId]
	);
	return rows[0]!.news;
}

/**
 * Writes down by which keys what is known of a packet's pages is found, inside the transaction that changed what they
 * come from.
 *
 * @param only ids of the pages that may have changed; without, all of them
 * @returns the packet's news, of which this is the latest
 */
export async function keyPages(tx: Database, packet: KeyedPacket, only?: readonly string[]): Promise<number> {
	const [assignment] = await tx.query<{ sheet: RuleSheet; version: number }>(
		'select rule_sheet as sheet, version from assignment where id = $1',
		[packet.assignmentId]
	);
	const { sheet, version } = assignment!;
	const pages = (only ?? Object.keys(packet.pages)).flatMap((id) => packet.pages[id] ?? []);
	const pictures = await picturesBehind(tx, packet.id, pages);
	const usual = usualTone(sheet);
	const paper = sheet.pages?.size;
	const keys = pages.flatMap((page) => {
		const picture = pictures.get(`${page.source}/${page.sourcePage}`);
		if (!picture) return [];
		const tone = page.tone ?? usual;
		const shown = asFound(page, picture);
		const turn = turnRead(shown, picture);
		return {
			page: page.id,
			source: page.source,
			index: page.sourcePage,
			prepared: preparedKey(picture.sha256, shown, tone, paper, turn),
			reading: readingKey(picture.sha256, shown, paper, turn, sheet.questions),
			tone: tone.name
		};
	});
	const news = await countNews(tx, packet.id);
	await tx.query(
		`insert into packet_page (packet_id, page_id, source_id, source_page, prepared_key, reading_key, tone, news)
		select $1, k.page, k.source, k.index, k.prepared, k.reading, k.tone, $3
		from jsonb_to_recordset($2::jsonb)
			as k(page text, source uuid, index int, prepared text, reading text, tone text)
		on conflict (packet_id, page_id) do update set source_id = excluded.source_id,
			source_page = excluded.source_page, prepared_key = excluded.prepared_key,
			reading_key = excluded.reading_key, tone = excluded.tone, news = excluded.news
		where (packet_page.source_id, packet_page.source_page, packet_page.prepared_key, packet_page.reading_key)
			is distinct from
			(excluded.source_id, excluded.source_page, excluded.prepared_key, excluded.reading_key)`,
		[packet.id, JSON.stringify(keys), news]
	);
	// Most edits take no page away, and the list of all pages may be long.
	if (!only || pages.length < only.length) {
		await tx.query(
			`delete from packet_page where packet_id = $1
			and page_id not in (select jsonb_object_keys(state -> 'pages') from packet where id = $1)`,
			[packet.id]
		);
	}
	if (!only) await tx.query('update packet set keyed_by = $2 where id = $1', [packet.id, keyedBy(version)]);
	return news;
}

/** Keys all pages of a packet anew, where its keys were made by something else than is in force now. */
export async function keepKeyed(
	db: Database,
	{ id: packetId, keyedBy: by, sheetVersion }: { id: string; keyedBy: string | null; sheetVersion: number }
): Promise<void> {
	if (by === keyedBy(sheetVersion)) return;
	await db.transaction(async (tx) => {
		const [packet] = await tx.query<KeyedPacket>(
			`select id, assignment_id as "assignmentId", state -> 'pages' as pages from packet where id = $1 for update`,
			[packetId]
		);
		if (packet) await keyPages(tx, packet);
	});
}

/** What a page's keys come from of its picture; its turn is not known before it has been looked at. */
interface KeyedPicture extends Pick<FoundTurns, 'readTurn'> {
	readonly sha256: string;
	readonly turn: FoundTurns['turn'] | null;
}

/** Of the pictures that pages are made from, what their keys come from. */
async function picturesBehind(
	tx: Database,
	packetId: string,
	pages: readonly Page[]
): Promise<Map<string, KeyedPicture>> {
	const rows = await tx.query<KeyedPicture & { at: string }>(
		`select s.id || '/' || p.index as at, s.sha256, p.facts -> 'turn' as turn, p.facts -> 'readTurn' as "readTurn"
		from jsonb_to_recordset($2::jsonb) as k(source text, "sourcePage" int)
		join source s on s.id::text = k.source
		join picture p on p.source_id = s.id and p.index = k."sourcePage"
		where s.packet_id = $1`,
		[packetId, JSON.stringify(pages.map(({ source, sourcePage }) => ({ source, sourcePage })))]
	);
	return new Map(rows.map((r) => [r.at, r]));
}

/** Whoever says that a page is upright as it lies makes no other page of it. */
function asFound(page: Page, { turn: found, readTurn }: KeyedPicture): Page {
	if (page.turn === null || !found) return page;
	const untouched = { ...page, turn: null };
	return page.turn === turnOf(untouched, { turn: found, readTurn }) ? untouched : page;
}

/** The turn that reading put in the place of the one that the page was first prepared with. */
function turnRead(page: Page, { turn: found, readTurn }: KeyedPicture): Turn | null {
	if (page.turn !== null || !found || !readTurn) return null;
	const turn = turnOf(page, { turn: found, readTurn });
	return turn === turnOf(page, { turn: found }) ? null : turn;
}

/**
 * SQL for the pages of a packet of which something is newer than a count of news, behind `=`: an array, which is planned
 * for as a few, so that each is then found by its key.
 */
export const newerPages = (packet: string, news: string) =>
	`any(array(select page_id from packet_page where packet_id = ${packet} and news > ${news}))`;

/** What is new of a page, by what finds it. */
export type NewOf =
	| { readonly prepared: string }
	| { readonly readings: readonly string[] }
	| { readonly source: string; readonly index: number };

/**
 * Something became known of a page: in every packet that holds it, it counts as new.
 *
 * @returns the packets
 */
export async function newOfPage(db: Database, of: NewOf): Promise<string[]> {
	const [condition, parameters] =
		'prepared' in of
			? ['prepared_key = $1', [of.prepared]]
			: 'readings' in of
				? ['reading_key in (select jsonb_array_elements_text($1::jsonb))', [JSON.stringify(of.readings)]]
				: ['source_id = $1 and source_page = $2', [of.source, of.index]];
	const rows = await db.query<{ packetId: string }>(
		`with hit as (select packet_id, page_id from packet_page where ${condition}),
			held as (select id from packet where id in (select packet_id from hit) order by id for update),
			counted as (update packet set news = news + 1 where id in (select id from held) returning id, news)
		update packet_page p set news = counted.news from counted, hit
		where p.packet_id = counted.id and hit.packet_id = p.packet_id and hit.page_id = p.page_id
		returning p.packet_id as "packetId"`,
		parameters
	);
	return [...new Set(rows.map((r) => r.packetId))];
}
