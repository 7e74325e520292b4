import type { Database } from './database';

export interface FileRow {
	readonly id: string;
	readonly packetId: string;
	readonly packetVersion: number;
	readonly name: string;
	readonly type: 'pdf' | 'zip';
	readonly sha256: string | null;
	readonly bytes: number | null;
	readonly pages: number | null;
	readonly state: 'making' | 'ready' | 'failed';
	readonly problem: string | null;
}

const FILE = `
	select id, packet_id as "packetId", packet_version as "packetVersion", name, type, sha256,
		bytes::float8 as bytes, pages, state, problem from file`;

/** The file of a packet's version; begun when it is not there yet or failed before. */
export async function beginFile(
	db: Database,
	packetId: string,
	packetVersion: number,
	name: string,
	type: 'pdf' | 'zip'
): Promise<FileRow> {
	const rows = await db.query<FileRow>(
		`insert into file (packet_id, packet_version, name, type) values ($1, $2, $3, $4)
		on conflict (packet_id, packet_version, name, type) do update
			set state = case when file.state = 'failed' then 'making' else file.state end, problem = null
		returning id, packet_id as "packetId", packet_version as "packetVersion", name, type, sha256,
			bytes::float8 as bytes, pages, state, problem`,
		[packetId, packetVersion, name, type]
	);
	return rows[0]!;
}

export async function fileById(db: Database, id: string): Promise<FileRow | null> {
	return (await db.query<FileRow>(`${FILE} where id = $1`, [id]))[0] ?? null;
}

export async function finishFile(
	db: Database,
	id: string,
	made: { sha256: string; bytes: number; pages: number }
): Promise<void> {
	await db.query(`update file set state = 'ready', sha256 = $2, bytes = $3, pages = $4 where id = $1`, [
		id,
		made.sha256,
		made.bytes,
		made.pages
	]);
}

export async function failFile(db: Database, id: string, problem: string): Promise<void> {
	await db.query(`update file set state = 'failed', problem = $2 where id = $1`, [id, problem]);
}

/** What the portal confirmed. */
export interface Receipt {
	readonly number: string;
	readonly receivedAt: string;
	readonly sha256: string;
	readonly bytes: number;
	readonly late: boolean;
}

export interface DeliveryRow {
	readonly id: string;
	readonly packetId: string;
	readonly fileId: string;
	readonly idempotencyKey: string;
	readonly state: 'sending' | 'received' | 'refused' | 'recalling' | 'recalled';
	readonly problem: string | null;
	readonly receipt: Receipt | null;
	readonly tries: number;
	readonly handedInAt: string;
	readonly answeredAt: string | null;
	readonly by: string;
	readonly fileName: string;
	readonly type: 'pdf' | 'zip';
	readonly sha256: string;
	readonly bytes: number;
	readonly pages: number;
	readonly packetVersion: number;
}

const DELIVERY = `
	select d.id, d.packet_id as "packetId", d.file_id as "fileId", d.idempotency_key as "idempotencyKey",
		d.state, d.problem, d.receipt, d.tries, d.handed_in_at as "handedInAt", d.answered_at as "answeredAt",
		p.given || ' ' || p.family as by, f.name as "fileName", f.type, f.sha256,
		f.bytes::float8 as bytes, f.pages, f.packet_version as "packetVersion"
	from delivery d join file f on f.id = d.file_id join person p on p.id = d.person_id`;

export function deliveriesOf(db: Database, packetId: string): Promise<DeliveryRow[]> {
	return db.query<DeliveryRow>(`${DELIVERY} where d.packet_id = $1 order by d.handed_in_at desc`, [packetId]);
}

export async function deliveryById(db: Database, id: string): Promise<DeliveryRow | null> {
	return (await db.query<DeliveryRow>(`${DELIVERY} where d.id = $1`, [id]))[0] ?? null;
}

/** Records the wish to hand in before anything is sent; the key makes a second wish the same one. */
export async function beginDelivery(
	db: Database,
	delivery: { packetId: string; fileId: string; personId: string; idempotencyKey: string }
): Promise<string> {
	await db.query(
		`insert into delivery (packet_id, file_id, person_id, idempotency_key) values ($1, $2, $3, $4)
		on conflict (idempotency_key) do nothing`,
		[delivery.packetId, delivery.fileId, delivery.personId, delivery.idempotencyKey]
	);
	const rows = await db.query<{ id: string }>('select id from delivery where idempotency_key = $1', [
		delivery.idempotencyKey
	]);
	return rows[0]!.id;
}

export async function countTry(db: Database, id: string, problem: string): Promise<void> {
	await db.query('update delivery set tries = tries + 1, problem = $2 where id = $1', [id, problem]);
}

export async function setDelivery(
	db: Database,
	id: string,
	state: DeliveryRow['state'],
	detail: { problem?: string | null; receipt?: Receipt } = {}
): Promise<void> {
	await db.query(
		`update delivery set state = $2, problem = $3, receipt = coalesce($4::jsonb, receipt),
			answered_at = case when $2 in ('received', 'refused', 'recalled') then now() else answered_at end
		where id = $1`,
		[id, state, detail.problem ?? null, detail.receipt ? JSON.stringify(detail.receipt) : null]
	);
}
