import Joi from 'joi';
import type { Change } from '../../core/packet/change';
import { undoStacks } from '../../core/packet/history';
import type { Packet } from '../../core/packet/packet';
import type { PacketReturn } from '../../core/packet/returned';
import type { PageRecord } from '../../core/page/pageRecord';
import type { PageReading } from '../../core/reading/pageReading';
import { otherThan, type RosterPerson } from '../../core/reading/personName';
import type { Finding } from '../../core/rules/finding';
import type { RuleSheet } from '../../core/rules/ruleSheet';
import type { PacketAccess } from '../access/access';
import { presentAt } from '../events/presence';
import type { Database } from '../store/database';
import { assignmentById, ruleSheetOf, type Assignment } from '../store/assignments';
import { besidePages, type BesidePages } from '../store/besidePages';
import type { DeliveryRow } from '../store/deliveries';
import { keptFindings } from '../store/findings';
import { knownPages, pagesOf, type KnownPage } from '../store/pageRecords';
import { changesSince, historyOf, type PacketHead } from '../store/packets';
import type { SourceRow } from '../store/sources';
import type { JobName } from '../work/kinds';

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
	/** Files that were brought in; of news, only those of which something is new. */
	readonly sources: readonly SourceView[];
	/** Times it was given back, latest first. */
	readonly returns: readonly PacketReturn[];
	/** When it is due, where its person was given more time than the rule sheet gives. */
	readonly moreTime: string | null;
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
	/** What the rules said when nothing more was to become known, but for the clock; null where that never was. */
	readonly findings: readonly Finding[] | null;
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
	const { packet, assignment, owner, as } = access;
	const [beside, undo, findings, known] = await Promise.all([
		besidePages(db, packet.id),
		undoState(db, packet.id),
		keptFindings(db, packet.id),
		knownPages(db, pagesOf(packet, assignment))
	]);
	return {
		...besideView(packet, beside),
		...undo,
		id: packet.id,
		packet: packet.state,
		assignment: assignmentView(assignment),
		owner: { given: owner.given, family: owner.family },
		as,
		findings,
		pages: pageViews(as, owner, known)
	};
}

/**
 * What is new of a packet. Much of it may have been heard before, nothing of it is left out: the count of news that it
 * carries was read before anything else.
 */
export async function packetNews(
	db: Database,
	packet: PacketHead & { readonly as: PacketAccess['as'] },
	heard: Heard
): Promise<PacketNews> {
	const changed = packet.version !== heard.version;
	const [beside, changes, undo, assignment, known] = await Promise.all([
		besidePages(db, packet.id, heard.news),
		changed ? changesSince(db, packet.id, heard.version) : [],
		changed ? undoState(db, packet.id) : null,
		packet.sheetVersion === heard.sheet ? null : assignmentById(db, packet.assignmentId),
		knownPages(db, packet, { since: heard.news })
	]);
	return {
		...besideView(packet, beside),
		// What was done after the packet was loaded comes with the next news.
		changes: changes.filter((c) => c.version <= packet.version),
		...(undo ? { undo } : {}),
		...(assignment ? { assignment: assignmentView(assignment) } : {}),
		pages: pageViews(packet.as, packet.owner, known)
	};
}

function besideView(
	{ id, version, news }: Pick<PacketHead, 'id' | 'version' | 'news'>,
	{ deliveries, troubles, link, sources, returns, moreTime }: BesidePages
): Beside {
	return {
		version,
		news,
		deliveries,
		troubles: troubles.map(({ id, job, data, problem }) => ({
			id,
			job,
			page: 'pageId' in data ? data.pageId : null,
			source: 'sourceId' in data ? data.sourceId : null,
			problem
		})),
		phone: link && { expiresAt: link.expiresAt, connected: presentAt(id).phone },
		sources: sources.map(sourceView),
		returns,
		moreTime,
		now: Date.now()
	};
}

async function undoState(db: Database, packetId: string): Promise<UndoState> {
	const { undo, redo } = undoStacks(await historyOf(db, packetId));
	return { canUndo: undo.length > 0, canRedo: redo.length > 0 };
}

function assignmentView(assignment: Assignment): AssignmentView {
	const { id, courseCode, version } = assignment;
	return { id, courseCode, ruleSheet: ruleSheetOf(assignment), version };
}

function sourceView({ id, name, bytes, batch, place, state, problem, clientKey }: SourceRow): SourceView {
	return { id, name, bytes, batch, place, state, problem, clientKey };
}

/** What somebody is shown of pages. */
export function pageViews(
	as: PacketAccess['as'],
	owner: RosterPerson,
	known: Readonly<Record<string, KnownPage>>
): Record<string, PageRecord> {
	return Object.fromEntries(Object.entries(known).map(([id, page]) => [id, shownTo(as, owner, page)]));
}

/** What somebody is shown of a page. */
export function shownTo(as: PacketAccess['as'], owner: RosterPerson, known: KnownPage): PageRecord {
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
	} = known;
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
