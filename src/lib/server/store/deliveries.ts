import type { Destination, TargetName } from '../../core/delivery/targets';
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

/** What the other side confirmed. */
export interface Receipt {
	readonly number: string;
	readonly receivedAt: string;
	readonly sha256: string;
	readonly bytes: number;
	readonly late: boolean;
}

/**
 * `sending`: on its way, nothing is confirmed; `unsure`: everything went out, the answer was lost, and sending it again
 * could make a second, so a person decides; `sent`: passed on, and nobody confirms its end; `received`: it lies at its
 * end; `recalling`: being called off or taken back; `replaced`: a later one took its place.
 */
export type DeliveryState =
	'sending' | 'unsure' | 'sent' | 'received' | 'refused' | 'recalling' | 'recalled' | 'replaced';

export interface DeliveryRow {
	readonly id: string;
	readonly packetId: string;
	readonly fileId: string;
	readonly idempotencyKey: string;
	readonly state: DeliveryState;
	readonly problem: string | null;
	readonly receipt: Receipt | null;
	readonly tries: number;
	readonly handedInAt: string;
	/** Until when it was due for this person, where they had been given more time by then. */
	readonly due: string | null;
	readonly answeredAt: string | null;
	/** When everything had gone out and only the answer was missing. */
	readonly sentAt: string | null;
	readonly nextTryAt: string | null;
	readonly target: TargetName;
	readonly destination: Destination;
	readonly comment: string;
	/** The delivery whose place it takes. */
	readonly replaces: string | null;
	readonly by: string;
	readonly fileName: string;
	readonly type: 'pdf' | 'zip';
	readonly sha256: string;
	readonly bytes: number;
	readonly pages: number;
	readonly packetVersion: number;
}

export const DELIVERY = `
	select d.id, d.packet_id as "packetId", d.file_id as "fileId", d.idempotency_key as "idempotencyKey",
		d.state, d.problem, d.receipt, d.tries, d.handed_in_at as "handedInAt", d.due, d.answered_at as "answeredAt",
		d.sent_at as "sentAt", d.next_try_at as "nextTryAt", d.target, d.destination, d.comment, d.replaces,
		p.given || ' ' || p.family as by, f.name as "fileName", f.type, f.sha256,
		f.bytes::float8 as bytes, f.pages, f.packet_version as "packetVersion"
	from delivery d join file f on f.id = d.file_id join person p on p.id = d.person_id`;

/** Latest first. */
export function deliveriesOf(db: Database, packetId: string): Promise<DeliveryRow[]> {
	return db.query<DeliveryRow>(`${DELIVERY} where d.packet_id = $1 order by d.handed_in_at desc`, [packetId]);
}

export async function deliveryById(db: Database, id: string): Promise<DeliveryRow | null> {
	return (await db.query<DeliveryRow>(`${DELIVERY} where d.id = $1`, [id]))[0] ?? null;
}

export interface NewDelivery {
	readonly packetId: string;
	readonly fileId: string;
	readonly personId: string;
	readonly idempotencyKey: string;
	readonly target: TargetName;
	readonly destination: Destination;
	readonly comment: string;
	readonly replaces: string | null;
}

/** Records the wish to hand in before anything is sent; the key makes a second wish the same one. */
export async function beginDelivery(db: Database, delivery: NewDelivery): Promise<string> {
	const { packetId, fileId, personId, idempotencyKey, target, destination, comment, replaces } = delivery;
	await db.query(
		`insert into delivery (packet_id, file_id, person_id, idempotency_key, target, destination, comment, replaces, due)
		values ($1::uuid, $2, $3, $4, $5, $6::jsonb, $7, $8,
			(select m.due from more_time m join packet p using (assignment_id, person_id) where p.id = $1::uuid))
		on conflict (idempotency_key) do nothing`,
		[packetId, fileId, personId, idempotencyKey, target, JSON.stringify(destination), comment, replaces]
	);
	const rows = await db.query<{ id: string }>('select id from delivery where idempotency_key = $1', [
		idempotencyKey
	]);
	return rows[0]!.id;
}

/** Longer than the longest try: after this a claim counts as left behind by one who died. */
const CLAIM_SECONDS = 120;

/** Claims a delivery for one try; null when it is settled or somebody else works on it. */
export async function claimDelivery(db: Database, id: string): Promise<DeliveryRow | null> {
	const rows = await db.query(
		`update delivery set claimed_until = now() + make_interval(secs => ${CLAIM_SECONDS})
		where id = $1 and state in ('sending', 'recalling') and (claimed_until is null or claimed_until < now())
		returning id`,
		[id]
	);
	return rows.length > 0 ? deliveryById(db, id) : null;
}

/** Whether it still has to be sent or called off. */
export async function isOpen(db: Database, id: string): Promise<boolean> {
	const rows = await db.query(`select 1 from delivery where id = $1 and state in ('sending', 'recalling')`, [
		id
	]);
	return rows.length > 0;
}

/** Every delivery that is not settled; where no other process can hold them, claims of one that is gone are taken away. */
export function openDeliveries(db: Database): Promise<{ id: string; target: TargetName }[]> {
	if (db.news) return db.query(`select id, target from delivery where state in ('sending', 'recalling')`);
	return db.query(
		`update delivery set claimed_until = null where state in ('sending', 'recalling') returning id, target`
	);
}

export async function noteSent(db: Database, id: string): Promise<void> {
	await db.query('update delivery set sent_at = coalesce(sent_at, now()) where id = $1', [id]);
}

/**
 * A try that came to nothing; the claim ends.
 * @param nothingOut whether it is sure that nothing arrived, also where something had gone out
 */
export async function recordAttempt(
	db: Database,
	id: string,
	{ problem, seconds, nothingOut }: { problem: string; seconds: number; nothingOut: boolean }
): Promise<void> {
	await db.query(
		`update delivery set tries = tries + 1, problem = $2, claimed_until = null,
			next_try_at = now() + make_interval(secs => $3), sent_at = case when $4 then null else sent_at end
		where id = $1`,
		[id, problem, seconds, nothingOut]
	);
}

/** What went out and may have arrived is sent once more, since a person says so. */
export async function sendAgain(db: Database, id: string): Promise<boolean> {
	const rows = await db.query(
		`update delivery set state = 'sending', sent_at = null, problem = null, claimed_until = null
		where id = $1 and state = 'unsure' returning id`,
		[id]
	);
	return rows.length > 0;
}

/** Ends the claim on a delivery without a word. */
export async function releaseClaim(db: Database, id: string): Promise<void> {
	await db.query('update delivery set claimed_until = null where id = $1', [id]);
}

/**
 * Settles a delivery that is in a state; false when it is in another by now, such as called off while it was being
 * sent. What was received takes the place of what it replaces in the same moment.
 */
export function settleDelivery(
	db: Database,
	id: string,
	from: DeliveryState,
	to: DeliveryState,
	{ problem = null, receipt }: { problem?: string | null; receipt?: Receipt } = {}
): Promise<boolean> {
	return db.transaction(async (tx) => {
		const rows = await tx.query<{ replaces: string | null }>(
			`update delivery set state = $3, problem = $4, receipt = coalesce($5::jsonb, receipt), next_try_at = null,
				claimed_until = null, answered_at = case when $3 in ('sending', 'recalling', 'unsure') then answered_at else now() end
			where id = $1 and state = $2 returning replaces`,
			[id, from, to, problem, receipt ? JSON.stringify(receipt) : null]
		);
		const replaces = rows[0]?.replaces;
		if (replaces && to === 'received') {
			await tx.query(`update delivery set state = 'replaced' where id = $1 and state = 'received'`, [
				replaces
			]);
		}
		return rows.length > 0;
	});
}
