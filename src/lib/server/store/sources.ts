import type { PictureFacts } from '../../core/page/preparePage';
import type { SourceType } from '../codec/sniff';
import type { Database } from './database';
import { countNews, keyPages, newOfPage, type KeyedPacket } from './pageKeys';

export interface SourceRow {
	readonly id: string;
	readonly packetId: string;
	readonly name: string;
	readonly sha256: string;
	readonly bytes: number;
	readonly batch: number;
	readonly place: number;
	readonly type: SourceType | null;
	/** `repeat`: the packet has the same file already, so no pages are made of this one. */
	readonly state: 'waiting' | 'ready' | 'refused' | 'repeat';
	readonly problem: string | null;
	readonly takenAt: string | null;
	/** The browser's own key of the file. */
	readonly clientKey: string | null;
	/** The page behind which its pages go; '' is the start, null the end. */
	readonly afterPage: string | null;
	/** The page whose picture this one takes the place of, or 'key:' and another source's client key. */
	readonly replaces: string | null;
	readonly broughtBy: string | null;
	readonly phoneLinkId: string | null;
	/** The packet's news when this was last new. */
	readonly news: number;
}

export const SOURCE = `
	select id, packet_id as "packetId", name, sha256, bytes::float8 as bytes, batch::float8 as batch, place,
		type, state, problem, taken_at as "takenAt", client_key as "clientKey", after_page as "afterPage", replaces,
		brought_by as "broughtBy", phone_link_id as "phoneLinkId", news::float8 as news from source`;

export async function sourceById(db: Database, id: string): Promise<SourceRow | null> {
	return (await db.query<SourceRow>(`${SOURCE} where id = $1`, [id]))[0] ?? null;
}

/** @param since only those that are newer than this count of news */
export function sourcesOf(db: Database, packetId: string, since = -1): Promise<SourceRow[]> {
	return db.query<SourceRow>(
		`${SOURCE} where packet_id = $1 and news > $2 order by batch, place, received_at`,
		[packetId, since]
	);
}

export type NewSource = Pick<SourceRow, 'packetId' | 'name' | 'sha256' | 'bytes' | 'batch' | 'place'> &
	Partial<Pick<SourceRow, 'clientKey' | 'afterPage' | 'replaces' | 'broughtBy' | 'phoneLinkId'>> & {
		readonly uploadId: string;
	};

/**
 * Records an upload that is safe in the vault; once, however often it is told and under however many
 * uploads the same file of a browser came.
 */
export async function addSource(db: Database, source: NewSource): Promise<{ id: string; isNew: boolean }> {
	return db.transaction(async (tx) => {
		// One at a time for a packet, so that of two equal files one is seen to be the second.
		await tx.query('select 1 from packet where id = $1 for update', [source.packetId]);
		const there = await tx.query<{ id: string }>(
			'select id from source where upload_id = $1 or (packet_id = $2 and client_key = $3)',
			[source.uploadId, source.packetId, source.clientKey ?? null]
		);
		if (there[0]) return { id: there[0].id, isNew: false };
		const same = await tx.query<{ name: string }>(
			`select s.name from source s join packet p on p.id = s.packet_id
			where s.packet_id = $1 and s.sha256 = $2 and (
				s.state = 'waiting'
				or exists (select from jsonb_each(p.state -> 'pages') page where page.value ->> 'source' = s.id::text)
			) limit 1`,
			[source.packetId, source.sha256]
		);
		const added = await tx.query<{ id: string }>(
			`insert into source (packet_id, upload_id, name, sha256, bytes, batch, place, client_key, after_page,
				replaces, brought_by, phone_link_id, state, problem, news)
			values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15) returning id`,
			[
				source.packetId,
				source.uploadId,
				source.name,
				source.sha256,
				source.bytes,
				source.batch,
				source.place,
				source.clientKey ?? null,
				source.afterPage ?? null,
				source.replaces ?? null,
				source.broughtBy ?? null,
				source.phoneLinkId ?? null,
				same[0] ? 'repeat' : 'waiting',
				same[0] ? `The very same file is here already: ${same[0].name}. It was not added again.` : null,
				await countNews(tx, source.packetId)
			]
		);
		return { id: added[0]!.id, isNew: true };
	});
}

/** The source that a browser knows by this key. */
export async function sourceByKey(db: Database, packetId: string, key: string): Promise<SourceRow | null> {
	const rows = await db.query<SourceRow>(`${SOURCE} where packet_id = $1 and client_key = $2`, [
		packetId,
		key
	]);
	return rows[0] ?? null;
}

/** The source that an upload became. */
export async function sourceByUpload(db: Database, uploadId: string): Promise<SourceRow | null> {
	return (await db.query<SourceRow>(`${SOURCE} where upload_id = $1`, [uploadId]))[0] ?? null;
}

/** Bytes and files that were brought into a packet, and bytes that a person brought in anywhere. */
export async function heldBy(
	db: Database,
	packetId: string,
	personId: string
): Promise<{ packetBytes: number; packetFiles: number; personBytes: number }> {
	const rows = await db.query<{ packetBytes: number; packetFiles: number; personBytes: number }>(
		`select
			coalesce((select sum(bytes) from source where packet_id = $1), 0)::float8 as "packetBytes",
			(select count(*) from source where packet_id = $1)::int as "packetFiles",
			coalesce((select sum(bytes) from source where brought_by = $2), 0)::float8 as "personBytes"`,
		[packetId, personId]
	);
	return rows[0]!;
}

/** Sets a source's state, where it is one of those given. */
function setState(
	db: Database,
	id: string,
	state: SourceRow['state'],
	{ problem = null, from }: { readonly problem?: string | null; readonly from?: SourceRow['state'] } = {}
): Promise<void> {
	return db.transaction(async (tx) => {
		const [source] = await tx.query<{ packetId: string }>(
			'select packet_id as "packetId" from source where id = $1 and ($2::text is null or state = $2)',
			[id, from ?? null]
		);
		if (!source) return;
		await tx.query('update source set state = $2, problem = $3, news = $4 where id = $1', [
			id,
			state,
			problem,
			await countNews(tx, source.packetId)
		]);
	});
}

/** Puts a source that was refused back where it waits to be taken in. */
export function waitAgain(db: Database, id: string): Promise<void> {
	return setState(db, id, 'waiting', { from: 'refused' });
}

/** Bytes of the largest packet's originals, and of the person's who brought in most. */
export async function mostHeld(db: Database): Promise<{ packetBytes: number; personBytes: number }> {
	const rows = await db.query<{ packetBytes: number; personBytes: number }>(
		`select coalesce((select max(sum) from (select sum(bytes) from source group by packet_id) s), 0)::float8
				as "packetBytes",
			coalesce((select max(sum) from (select sum(bytes) from source group by brought_by) s), 0)::float8
				as "personBytes"`
	);
	return rows[0]!;
}

/** Every SHA-256 that something refers to: what was brought in, and files made of it. */
export async function referredFiles(db: Database): Promise<Set<string>> {
	const rows = await db.query<{ sha256: string }>(
		`select sha256 from source union select sha256 from file where sha256 is not null`
	);
	return new Set(rows.map((r) => r.sha256));
}

export function refuseSource(db: Database, id: string, problem: string): Promise<void> {
	return setState(db, id, 'refused', { problem });
}

export async function acceptSource(
	db: Database,
	id: string,
	{ type, pictures, takenAt }: { type: SourceType; pictures: number; takenAt: string | null }
): Promise<void> {
	await db.query('update source set type = $2, taken_at = $3 where id = $1', [id, type, takenAt]);
	await db.query(
		`insert into picture (source_id, index) select $1::uuid, i from generate_series(0, $2::int - 1) i
		on conflict do nothing`,
		[id, pictures]
	);
	await setState(db, id, 'ready');
}

export interface PictureRow {
	readonly sourceId: string;
	readonly index: number;
	readonly facts: PictureFacts | null;
	readonly problem: string | null;
}

/** Whether a picture was brought into a packet. */
export async function hasPicture(
	db: Database,
	packetId: string,
	sourceId: string,
	index: number
): Promise<boolean> {
	const rows = await db.query(
		`select 1 from picture p join source s on s.id = p.source_id
		where s.packet_id = $1 and s.id = $2 and p.index = $3`,
		[packetId, sourceId, index]
	);
	return rows.length > 0;
}

export async function pictureAt(db: Database, sourceId: string, index: number): Promise<PictureRow | null> {
	const rows = await db.query<PictureRow>(
		'select source_id as "sourceId", index, facts, problem from picture where source_id = $1 and index = $2',
		[sourceId, index]
	);
	return rows[0] ?? null;
}

/** Pictures that are prepared and not read yet, with their packets. */
export function unreadPictures(
	db: Database
): Promise<{ packetId: string; sourceId: string; index: number }[]> {
	return db.query(
		`select s.packet_id as "packetId", p.source_id as "sourceId", p.index
		from picture p join source s on s.id = p.source_id
		where p.facts is not null and p.facts -> 'readTurn' is null`
	);
}

/**
 * What was found of a picture. Pages whose turn is told by it have other keys from then on.
 *
 * @returns the packets in which it is new
 */
export async function setPictureFacts(
	db: Database,
	sourceId: string,
	index: number,
	facts: PictureFacts
): Promise<string[]> {
	await db.transaction(async (tx) => {
		const [packet] = await tx.query<Omit<KeyedPacket, 'pages'>>(
			`select p.id, p.assignment_id as "assignmentId" from packet p join source s on s.packet_id = p.id
			where s.id = $1 for update of p`,
			[sourceId]
		);
		await tx.query(
			'update picture set facts = $3::jsonb, problem = null where source_id = $1 and index = $2',
			[sourceId, index, JSON.stringify(facts)]
		);
		// Once nobody else can change it; and of its pages, which may be hundreds, those that are made from this picture.
		const [made] = await tx.query<Pick<KeyedPacket, 'pages'>>(
			`select coalesce(json_object_agg(k.page_id, p.state -> 'pages' -> k.page_id), '{}') as pages
			from packet p join packet_page k on k.packet_id = p.id and p.state -> 'pages' ? k.page_id
			where p.id = $1 and k.source_id = $2 and k.source_page = $3`,
			[packet!.id, sourceId, index]
		);
		await keyPages(tx, { ...packet!, ...made! }, Object.keys(made!.pages));
	});
	return newOfPage(db, { source: sourceId, index });
}

/**
 * @param problem null: none any more
 * @returns the packets in which it is new
 */
export async function setPictureProblem(
	db: Database,
	sourceId: string,
	index: number,
	problem: string | null
): Promise<string[]> {
	await db.query('update picture set problem = $3 where source_id = $1 and index = $2', [
		sourceId,
		index,
		problem
	]);
	return newOfPage(db, { source: sourceId, index });
}
