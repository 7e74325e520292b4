import type { PictureFacts } from '../../core/page/preparePage';
import type { SourceType } from '../codec/sniff';
import type { Database } from './database';

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
}

const SOURCE = `
	select id, packet_id as "packetId", name, sha256, bytes::float8 as bytes, batch::float8 as batch, place,
		type, state, problem, taken_at as "takenAt", client_key as "clientKey", after_page as "afterPage", replaces,
		brought_by as "broughtBy", phone_link_id as "phoneLinkId" from source`;

export async function sourceById(db: Database, id: string): Promise<SourceRow | null> {
	return (await db.query<SourceRow>(`${SOURCE} where id = $1`, [id]))[0] ?? null;
}

/** @param only one source's id: no other is loaded */
export function sourcesOf(db: Database, packetId: string, only?: string): Promise<SourceRow[]> {
	return db.query<SourceRow>(
		`${SOURCE} where packet_id = $1 and ($2::uuid is null or id = $2) order by batch, place, received_at`,
		[packetId, only ?? null]
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
				replaces, brought_by, phone_link_id, state, problem)
			values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14) returning id`,
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
				same[0] ? `The very same file is here already: ${same[0].name}. It was not added again.` : null
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

/** Puts a source that was refused back where it waits to be taken in. */
export async function waitAgain(db: Database, id: string): Promise<void> {
	await db.query(`update source set state = 'waiting', problem = null where id = $1 and state = 'refused'`, [
		id
	]);
}

/** Every SHA-256 that something refers to: what was brought in, and files made of it. */
export async function referredFiles(db: Database): Promise<Set<string>> {
	const rows = await db.query<{ sha256: string }>(
		`select sha256 from source union select sha256 from file where sha256 is not null`
	);
	return new Set(rows.map((r) => r.sha256));
}

export async function refuseSource(db: Database, id: string, problem: string): Promise<void> {
	await db.query(`update source set state = 'refused', problem = $2 where id = $1`, [id, problem]);
}

export async function acceptSource(
	db: Database,
	id: string,
	contents: { type: SourceType; pictures: number; takenAt: string | null }
): Promise<void> {
	await db.transaction(async (tx) => {
		await tx.query(`update source set state = 'ready', type = $2, taken_at = $3 where id = $1`, [
			id,
			contents.type,
			contents.takenAt
		]);
		await tx.query(
			`insert into picture (source_id, index) select $1::uuid, i from generate_series(0, $2::int - 1) i
			on conflict do nothing`,
			[id, contents.pictures]
		);
	});
}

export interface PictureRow {
	readonly sourceId: string;
	readonly index: number;
	readonly facts: PictureFacts | null;
	readonly problem: string | null;
}

/** @param only one source's id: no other's are loaded */
export function picturesOf(db: Database, packetId: string, only?: string): Promise<PictureRow[]> {
	return db.query<PictureRow>(
		`select p.source_id as "sourceId", p.index, p.facts, p.problem
		from picture p join source s on s.id = p.source_id
		where s.packet_id = $1 and ($2::uuid is null or s.id = $2)`,
		[packetId, only ?? null]
	);
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

export async function setPictureFacts(
	db: Database,
	sourceId: string,
	index: number,
	facts: PictureFacts
): Promise<void> {
	await db.query('update picture set facts = $3::jsonb, problem = null where source_id = $1 and index = $2', [
		sourceId,
		index,
		JSON.stringify(facts)
	]);
}

/** @param problem null: none any more */
export async function setPictureProblem(
	db: Database,
	sourceId: string,
	index: number,
	problem: string | null
): Promise<void> {
	await db.query('update picture set problem = $3 where source_id = $1 and index = $2', [
		sourceId,
		index,
		problem
	]);
}
