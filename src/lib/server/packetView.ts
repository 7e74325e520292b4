import Joi from 'joi';
import type { Change } from '../core/packet/change';
import { undoStacks } from '../core/packet/history';
import type { Packet } from '../core/packet/packet';
import type { PageRecord } from '../core/page/pageRecord';
import type { PageReading } from '../core/reading/pageReading';
import { otherThan, type RosterPerson } from '../core/reading/personName';
import type { RuleSheet } from '../core/rules/ruleSheet';
import type { PacketAccess } from './access/access';
import { presentAt } from './events/presence';
import type { Database } from './store/database';
import { deliveriesOf, type DeliveryRow } from './store/deliveries';
import { pageRecords, type StoredPage, type Which } from './store/pageRecords';
import { changesSince, historyOf } from './store/packets';
import { phoneLinkOf } from './store/phoneLinks';
import { sourcesOf, type SourceRow } from './store/sources';
import { troublesOf } from './store/troubles';
import type { JobName } from './work/kinds';

/** A file that was brought in, as it is shown. */
export type SourceView = Pick<
	SourceRow,
	'id' | 'name' | 'bytes' | 'batch' | 'place' | 'state' | 'problem' | 'clientKey'
>;

/** The assignment as a workspace shows it. */
export interface AssignmentView {
	readonly id: string;
	readonly courseCode: string;
	readonly ruleSheet: RuleSheet;
	/** Of the rule sheet. */
	readonly version: number;
}

/** What changes beside the pages, and is little. */
interface Beside {
	readonly version: number;
	/** Counts everything that becomes known of the packet: who has this asks for what is newer. */
	readonly news: number;
	readonly deliveries: readonly DeliveryRow[];
	/** Jobs that failed for good, and can be tried again. */
	readonly troubles: readonly {
		readonly id: string;
		readonly job: JobName;
		readonly page: string | null;
		readonly source: string | null;
		readonly problem: string;
	}[];
	/** The phone link that is open, and how many phones have it open now. */
	readonly phone: { readonly expiresAt: string; readonly connected: number } | null;
	/** The server's clock, milliseconds since 1970: due times are judged by it. */
	readonly now: number;
}

interface UndoState {
	readonly canUndo: boolean;
	readonly canRedo: boolean;
}

/** Everything a workspace shows of a packet. */
export interface PacketView extends Beside, UndoState {
	readonly id: string;
	readonly packet: Packet;
	readonly assignment: AssignmentView;
	readonly owner: { readonly given: string; readonly family: string };
	readonly as: 'owner' | 'teacher';
	readonly sources: readonly SourceView[];
	readonly pages: Readonly<Record<string, PageRecord>>;
}

/** What is new of a packet since a workspace last heard of it. */
export interface PacketNews extends Beside {
	/** What was done to it since, in sequence. */
	readonly changes: readonly { readonly version: number; readonly change: Change }[];
	/** Only when something was done. */
	readonly undo?: UndoState;
	/** Only when the rule sheet is another. */
	readonly assignment?: AssignmentView;
	readonly sources: readonly SourceView[];
	readonly pages: Readonly<Record<string, PageRecord>>;
}

/** What a workspace has heard of a packet so far. */
export interface Heard {
	readonly version: number;
	readonly news: number;
	readonly sheet: number;
}

export const heardSchema = Joi.object({
	version: Joi.number().integer().min(0).required(),
	news: Joi.number().integer().min(0).required(),
	sheet: Joi.number().integer().min(0).required()
});

export async function packetView(db: Database, access: PacketAccess): Promise<PacketView> {
	const { packet, owner } = access;
	const [beside, undo, sources, pages] = await Promise.all([
		besidePages(db, access),
		undoState(db, packet.id),
		sourcesOf(db, packet.id),
		pageViews(db, access)
	]);
	return {
		...beside,
		...undo,
		id: packet.id,
		packet: packet.state,
		assignment: assignmentView(access),
		owner: { given: owner.given, family: owner.family },
		as: access.as,
		sources: sources.map(sourceView),
		pages
	};
}

/**
 * What is new of a packet. Much of it may have been heard before, nothing of it is left out: the count of news that it
 * carries was read before anything else.
 */
export async function packetNews(db: Database, access: PacketAccess, heard: Heard): Promise<PacketNews> {
	const { packet, assignment } = access;
	const changed = packet.version !== heard.version;
	const [beside, changes, undo, sources, pages] = await Promise.all([
		besidePages(db, access),
		changed ? changesSince(db, packet.id, heard.version) : [],
		changed ? undoState(db, packet.id) : null,
		sourcesOf(db, packet.id, heard.news),
		pageViews(db, access, { since: heard.news })
	]);
	return {
		...beside,
		// What was done after the packet was loaded comes with the next news.
		changes: changes.filter((c) => c.version <= packet.version),
		...(undo ? { undo } : {}),
		...(assignment.version === heard.sheet ? {} : { assignment: assignmentView(access) }),
		sources: sources.map(sourceView),
		pages
	};
}

async function besidePages(db: Database, { packet }: PacketAccess): Promise<Beside> {
	const [deliveries, link, troubles] = await Promise.all([
		deliveriesOf(db, packet.id),
		phoneLinkOf(db, packet.id),
		troublesOf(db, packet.id)
	]);
	return {
		version: packet.version,
		news: packet.news,
		deliveries,
		troubles: troubles.map(({ id, job, data, problem }) => ({
			id,
			job,
			page: 'pageId' in data ? data.pageId : null,
			source: 'sourceId' in data ? data.sourceId : null,
			problem
		})),
		phone: link && { expiresAt: link.expiresAt, connected: presentAt(packet.id).phone },
		now: Date.now()
	};
}

async function undoState(db: Database, packetId: string): Promise<UndoState> {
	const { undo, redo } = undoStacks(await historyOf(db, packetId));
	return { canUndo: undo.length > 0, canRedo: redo.length > 0 };
}

function assignmentView({ assignment }: PacketAccess): AssignmentView {
	const { id, courseCode, ruleSheet, version } = assignment;
	return { id, courseCode, ruleSheet: { ...ruleSheet, course: ruleSheet.course || courseCode }, version };
}

function sourceView({ id, name, bytes, batch, place, state, problem, clientKey }: SourceRow): SourceView {
	return { id, name, bytes, batch, place, state, problem, clientKey };
}

/** What a person is shown of pages. */
export async function pageViews(
	db: Database,
	{ packet, assignment, owner, as }: PacketAccess,
	which: Which = {}
): Promise<Record<string, PageRecord>> {
	const stored = await pageRecords(db, packet, assignment, which);
	return Object.fromEntries(Object.entries(stored).map(([id, page]) => [id, shownTo(as, owner, page)]));
}

/** What somebody is shown of a page. */
export function shownTo(as: PacketAccess['as'], owner: RosterPerson, stored: StoredPage): PageRecord {
	const {
		key,
		picture,
		problem,
		prepared,
		bytes,
		weights,
		reading,
		name: matched,
		sourceName,
		takenAt
	} = stored;
	const other = otherThan(owner, matched);
	const isOwn = matched?.person?.given === owner.given && matched.person.family === owner.family;
	// A student is told that a name is not theirs, never whose it is.
	const mayKnow = as === 'teacher' || isOwn;
	const person = matched?.person ? { given: matched.person.given, family: matched.person.family } : null;
	return {
		key,
		picture,
		problem,
		prepared,
		bytes,
		weights,
		reading: reading && withoutHeader(reading),
		name: matched && { ...matched, person: mayKnow ? person : null },
		otherPerson: other && (as === 'teacher' ? other : matched!.text),
		sourceName,
		takenAt
	};
}

/** What names are looked for in stays here. */
function withoutHeader({ header: _, ...reading }: PageReading): PageReading {
	return reading;
}
