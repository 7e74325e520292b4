import { apply, ChangeError, type Change } from '../../core/packet/change';
import { undoStacks, type HistoryEntry } from '../../core/packet/history';
import { overLimits, PACKET_LIMITS } from '../../core/packet/limits';
import type { RuleSheet } from '../../core/rules/ruleSheet';
import { EMPTY_PACKET, type Packet, type Page } from '../../core/packet/packet';
import type { Database } from './database';
import { keyPages } from './pageKeys';
import type { Role } from './people';

export interface PacketRow {
	readonly id: string;
	readonly assignmentId: string;
	readonly personId: string;
	/** A stack holds many people's pages, and is its class's teachers'. */
	readonly kind: 'packet' | 'stack';
	readonly version: number;
	readonly state: Packet;
	/** How much has become known of it: see `packet.news`. */
	readonly news: number;
	/** See `keyedBy`. */
	readonly keyedBy: string | null;
	/** When it is due, where its person was given more time than the rule sheet gives. */
	readonly moreTime: string | null;
}

const PACKET = `
	select id, assignment_id as "assignmentId", person_id as "personId", kind, version, state, news::float8 as news,
		keyed_by as "keyedBy",
		(select due from more_time m where m.assignment_id = packet.assignment_id and m.person_id = packet.person_id)
			as "moreTime"
	from packet`;

export async function packetById(db: Database, id: string): Promise<PacketRow | null> {
	return (await db.query<PacketRow>(`${PACKET} where id = $1`, [id]))[0] ?? null;
}

/** One page of a packet, with what decides how it is made. */
export interface PageOfPacket extends Pick<PacketRow, 'id' | 'assignmentId' | 'kind' | 'keyedBy'> {
	readonly page: Page;
}

/** Null when it is not there any more. */
export async function pageOfPacket(db: Database, id: string, pageId: string): Promise<PageOfPacket | null> {
	const rows = await db.query<PageOfPacket>(
		`select id, assignment_id as "assignmentId", kind, keyed_by as "keyedBy", state -> 'pages' -> $2 as page
		from packet where id = $1 and state -> 'pages' ? $2`,
		[id, pageId]
	);
	return rows[0] ?? null;
}

/** A packet without its state: whose it is, how far it has come, and the role that somebody has in its course. */
export interface PacketHead extends Omit<PacketRow, 'state' | 'moreTime'> {
	readonly courseId: string;
	/** Of the rule sheet. */
	readonly sheetVersion: number;
	/** Tones that the rule sheet allows. */
	readonly tones: RuleSheet['tone'];
	readonly owner: { readonly given: string; readonly family: string };
	readonly role: Role | null;
}

export async function packetHead(db: Database, id: string, meId: string): Promise<PacketHead | null> {
	const rows = await db.query<PacketHead>(
		`select t.id, t.assignment_id as "assignmentId", t.person_id as "personId", t.kind, t.version, t.news::float8 as news,
			t.keyed_by as "keyedBy", a.course_id as "courseId", a.version as "sheetVersion", a.rule_sheet -> 'tone' as tones,
			jsonb_build_object('given', o.given, 'family', o.family) as owner, e.role
		from packet t
		join assignment a on a.id = t.assignment_id
		join person o on o.id = t.person_id
		left join enrolled e on e.course_id = a.course_id and e.person_id = $2
		where t.id = $1`,
		[id, meId]
	);
	return rows[0] ?? null;
}

/** Ids of the packets of an assignment. */
export async function packetsOf(db: Database, assignmentId: string): Promise<string[]> {
	const rows = await db.query<{ id: string }>('select id from packet where assignment_id = $1', [
		assignmentId
	]);
	return rows.map((r) => r.id);
}

/** A person's packet for an assignment; made when it is not there yet. */
export async function openPacket(db: Database, assignmentId: string, personId: string): Promise<string> {
	await db.query(
		`insert into packet (assignment_id, person_id, state) values ($1, $2, $3::jsonb)
		on conflict (assignment_id, person_id) where kind = 'packet' do nothing`,
		[assignmentId, personId, JSON.stringify(EMPTY_PACKET)]
	);
	const rows = await db.query<{ id: string }>(
		`select id from packet where assignment_id = $1 and person_id = $2 and kind = 'packet'`,
		[assignmentId, personId]
	);
	return rows[0]!.id;
}

/** The stack of an assignment's class; made when it is not there yet. @param personId the teacher who begins it */
export async function openStack(db: Database, assignmentId: string, personId: string): Promise<string> {
	await db.query(
		`insert into packet (assignment_id, person_id, kind, state) values ($1, $2, 'stack', $3::jsonb)
		on conflict (assignment_id) where kind = 'stack' do nothing`,
		[assignmentId, personId, JSON.stringify(EMPTY_PACKET)]
	);
	const rows = await db.query<{ id: string }>(
		`select id from packet where assignment_id = $1 and kind = 'stack'`,
		[assignmentId]
	);
	return rows[0]!.id;
}

/** Whether a stack was begun for an assignment's class. */
export async function hasStack(db: Database, assignmentId: string): Promise<boolean> {
	const rows = await db.query(`select 1 from packet where assignment_id = $1 and kind = 'stack'`, [
		assignmentId
	]);
	return rows.length > 0;
}

/** The packet has moved on since the version an edit was made on. */
export class StaleVersionError extends Error {
	constructor(readonly version: number) {
		super('The packet was changed elsewhere in the meantime.');
		this.name = 'StaleVersionError';
	}
}

export type Command =
	/** A function works the change out from the packet as it stands, inside the transaction. */
	| { readonly kind: 'edit' | 'machine'; readonly change: Change | ((packet: Packet) => Change | null) }
	| { readonly kind: 'undo' | 'redo' };

/**
 * Carries out one command on a packet and records it with its inverse, all in one transaction.
 *
 * @param base the version the person saw; null for the machine's own changes
 * @param key the browser's own key of the edit: what was carried out under it is not carried out again
 * @throws StaleVersionError when the packet has moved on
 * @throws ChangeError when the change does not fit
 */
export function command(
	db: Database,
	packetId: string,
	personId: string | null,
	base: number | null,
	what: Command,
	key: string | null = null
): Promise<PacketRow> {
	return db.transaction(async (tx) => {
		const row = (await tx.query<PacketRow>(`${PACKET} where id = $1 for update`, [packetId]))[0];
		if (!row) throw new ChangeError('This packet is not there.');
		if (key !== null) {
			const done = await tx.query('select 1 from change where packet_id = $1 and edit_key = $2', [
				packetId,
				key
			]);
			if (done.length > 0) return row;
		}
		if (base !== null && base !== row.version) throw new StaleVersionError(row.version);
		const planned = await plan(tx, row, what);
		if (!planned) return row;
		const { packet, inverse } = apply(row.state, planned.change);
		const over = overLimits(packet);
		if (over) throw new ChangeError(over);
		const version = row.version + 1;
		if (version > PACKET_LIMITS.history) {
			throw new ChangeError(
				`This packet was changed ${PACKET_LIMITS.history} times and takes no more changes.`
			);
		}
		await tx.query(
			`insert into change (packet_id, version, kind, target, change, inverse, person_id, edit_key)
			values ($1, $2, $3, $4, $5::jsonb, $6::jsonb, $7, $8)`,
			[
				packetId,
				version,
				what.kind,
				planned.target,
				JSON.stringify(planned.change),
				JSON.stringify(inverse),
				personId,
				key
			]
		);
		await tx.query('update packet set version = $2, state = $3::jsonb, updated_at = now() where id = $1', [
			packetId,
			version,
			JSON.stringify(packet)
		]);
		const pages = Object.keys({ ...row.state.pages, ...packet.pages }).filter(
			(page) => row.state.pages[page] !== packet.pages[page]
		);
		const after = { ...row, version, state: packet };
		return pages.length > 0
			? { ...after, news: await keyPages(tx, { ...row, pages: packet.pages }, pages) }
			: after;
	});
}

async function plan(
	tx: Database,
	row: PacketRow,
	what: Command
): Promise<{ change: Change; target: number | null } | null> {
	switch (what.kind) {
		case 'edit':
		case 'machine': {
			const change = typeof what.change === 'function' ? what.change(row.state) : what.change;
			return change ? { change, target: null } : null;
		}
		case 'undo': {
			const target = undoStacks(await historyOf(tx, row.id)).undo.at(-1);
			if (target === undefined) throw new ChangeError('There is nothing to undo.');
			// The latest time this edit was made: by the edit itself or by a redo of it.
			const rows = await tx.query<{ inverse: Change }>(
				`select inverse from change where packet_id = $1
				and (version = $2 or (kind = 'redo' and target = $2)) order by version desc limit 1`,
				[row.id, target]
			);
			return { change: rows[0]!.inverse, target };
		}
		case 'redo': {
			const target = undoStacks(await historyOf(tx, row.id)).redo.at(-1);
			if (target === undefined) throw new ChangeError('There is nothing to redo.');
			const rows = await tx.query<{ change: Change }>(
				'select change from change where packet_id = $1 and version = $2',
				[row.id, target]
			);
			return { change: rows[0]!.change, target };
		}
	}
}

export function historyOf(db: Database, packetId: string): Promise<HistoryEntry[]> {
	return db.query<HistoryEntry>(
		'select version, kind, target from change where packet_id = $1 order by version',
		[packetId]
	);
}

/** What was done to a packet since a version, in sequence. */
export function changesSince(
	db: Database,
	packetId: string,
	version: number
): Promise<{ version: number; change: Change }[]> {
	return db.query(
		'select version, change from change where packet_id = $1 and version > $2 order by version',
		[packetId, version]
	);
}

export interface LogLine extends HistoryEntry {
	readonly change: Change;
	readonly by: string | null;
	readonly at: string;
}

/** Who did what, latest first. */
export function logOf(db: Database, packetId: string, most = 200): Promise<LogLine[]> {
	return db.query<LogLine>(
		`select h.version, h.kind, h.target, h.change, h.at, p.given || ' ' || p.family as by
		from change h left join person p on p.id = h.person_id
		where h.packet_id = $1 order by h.version desc limit $2`,
		[packetId, most]
	);
}

/** The packet as it was at some of its versions, made again from its changes. */
export async function packetsAtVersions(
	db: Database,
	packetId: string,
	versions: readonly number[]
): Promise<Map<number, Packet>> {
	const wanted = new Set(versions);
	const rows = await db.query<{ version: number; change: Change }>(
		'select version, change from change where packet_id = $1 and version <= $2 order by version',
		[packetId, Math.max(0, ...versions)]
	);
	const found = new Map<number, Packet>(wanted.has(0) ? [[0, EMPTY_PACKET]] : []);
	let packet = EMPTY_PACKET;
	for (const { version, change } of rows) {
		packet = apply(packet, change).packet;
		if (wanted.has(version)) found.set(version, packet);
	}
	return found;
}
