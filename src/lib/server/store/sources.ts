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
	readonly state: 'waiting' | 'ready' | 'refused';
	readonly problem: string | null;
	readonly takenAt: string | null;
}

const SOURCE = `
	select id, packet_id as "packetId", name, sha256, bytes::float8 as bytes, batch::float8 as batch, place,
		type, state, problem, taken_at as "takenAt" from source`;

export async function sourceById(db: Database, id: string): Promise<SourceRow | null> {
	return (await db.query<SourceRow>(`${SOURCE} where id = $1`, [id]))[0] ?? null;
}

export function sourcesOf(db: Database, packetId: string): Promise<SourceRow[]> {
	return db.query<SourceRow>(`${SOURCE} where packet_id = $1 order by batch, place, received_at`, [packetId]);
}

/** Records an upload that is safe in the vault; once, however often it is told. */
export async function addSource(
	db: Database,
	source: {
		packetId: string;
		uploadId: string;
		name: string;
		sha256: string;
		bytes: number;
		batch: number;
		place: number;
	}
): Promise<{ id: string; isNew: boolean }> {
	const added = await db.query<{ id: string }>(
		`insert into source (packet_id, upload_id, name, sha256, bytes, batch, place)
		values ($1, $2, $3, $4, $5, $6, $7) on conflict (upload_id) do nothing returning id`,
		[source.packetId, source.uploadId, source.name, source.sha256, source.bytes, source.batch, source.place]
	);
	if (added[0]) return { id: added[0].id, isNew: true };
	const there = await db.query<{ id: string }>('select id from source where upload_id = $1', [
		source.uploadId
	]);
	return { id: there[0]!.id, isNew: false };
}

export async function isUploadTaken(db: Database, uploadId: string): Promise<boolean> {
	return (await db.query('select 1 from source where upload_id = $1', [uploadId])).length > 0;
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

export function picturesOf(db: Database, packetId: string): Promise<PictureRow[]> {
	return db.query<PictureRow>(
		`select p.source_id as "sourceId", p.index, p.facts, p.problem
		from picture p join source s on s.id = p.source_id where s.packet_id = $1`,
		[packetId]
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

export async function setPictureProblem(
	db: Database,
	sourceId: string,
	index: number,
	problem: string
): Promise<void> {
	await db.query('update picture set problem = $3 where source_id = $1 and index = $2', [
		sourceId,
		index,
		problem
	]);
}
