import { undoStacks } from '../core/packet/history';
import type { Page, Packet } from '../core/packet/packet';
import type { PageFacts, PictureFacts } from '../core/page/preparePage';
import { turnOf } from '../core/page/effective';
import { afterReading } from '../core/legibility/afterReading';
import { otherThan, type NameReading, type RosterPerson } from '../core/reading/personName';
import type { PageReading } from '../core/reading/pageReading';
import type { RuleSheet } from '../core/rules/ruleSheet';
import type { PageWeight } from '../core/size/pageWeights';
import type { Turn } from '../core/sheet/turn';
import { usualTone } from '../core/tone/usualTone';
import type { PacketAccess } from './access/access';
import type { Database } from './store/database';
import { deliveriesOf, type DeliveryRow } from './store/deliveries';
import { namesByKeys, rosterKey } from './store/pageNames';
import { historyOf, type PacketRow } from './store/packets';
import { preparedByKeys, type PreparedRow } from './store/prepared';
import { readingsByKeys } from './store/readings';
import { weightsByKeys } from './store/weights';
import { picturesOf, sourcesOf, type SourceRow } from './store/sources';
import { presentAt } from './events/presence';
import { phoneLinkOf } from './store/phoneLinks';
import { troublesOf } from './store/troubles';
import { preparedKey, readingKey } from './work/derived';
import { rememberPictures } from './work/pictureIndex';
import type { JobName } from './work/kinds';

/** What is known of one page, beside the packet. */
export interface PageView {
	readonly key: string;
	readonly picture: PictureFacts | null;
	readonly prepared: PageFacts | null;
	readonly bytes: number | null;
	/** Ways to keep it in the file; null when they were not weighed. */
	readonly weights: readonly PageWeight[] | null;
	readonly problem: string | null;
	readonly sourceName: string;
	readonly reading: PageReading | null;
	readonly name: NameReading | null;
	/**
	 * The name at the top, when it is another person's than the packet's: for a teacher as the roster has it, for a
	 * student as it was read, since whom else a name belongs to is not theirs to learn.
	 */
	readonly otherPerson: string | null;
	/** When the picture was taken, milliseconds since 1970. */
	readonly takenAt: number | null;
}

/** What is known of one page on the server. */
export type KnownPage = Omit<PageView, 'name' | 'otherPerson' | 'takenAt'> & {
	readonly page: Page;
	readonly source: SourceRow;
	readonly readingKey: string;
};

/** Everything a workspace shows of a packet. */
export interface PacketView {
	readonly id: string;
	readonly version: number;
	readonly packet: Packet;
	readonly canUndo: boolean;
	readonly canRedo: boolean;
	readonly assignment: { readonly id: string; readonly courseCode: string; readonly ruleSheet: RuleSheet };
	readonly owner: { readonly given: string; readonly family: string };
	readonly as: 'owner' | 'teacher';
	readonly sources: readonly Pick<SourceRow, 'id' | 'name' | 'bytes' | 'state' | 'problem' | 'clientKey'>[];
	readonly pages: Readonly<Record<string, PageView>>;
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

/**
 * Each page with its source, its key and what has been prepared for it.
 * @param only one page's id: then nothing else is loaded
 */
export async function packetPages(
	db: Database,
	packet: PacketRow,
	sheet: RuleSheet,
	only?: string
): Promise<{ pages: Record<string, KnownPage>; sources: SourceRow[] }> {
	const wanted = Object.values(packet.state.pages).filter((p) => only === undefined || p.id === only);
	const onlySource = only === undefined ? undefined : (wanted[0]?.source ?? null);
	if (onlySource === null) return { pages: {}, sources: [] };
	const sources = await sourcesOf(db, packet.id, onlySource);
	const bySource = new Map(sources.map((s) => [s.id, s]));
	const pictures = new Map(
		(await picturesOf(db, packet.id, onlySource)).map((p) => [`${p.sourceId}/${p.index}`, p])
	);
	const usual = usualTone(sheet);
	const keyed = wanted.map((page) => {
		const source = bySource.get(page.source)!;
		const facts = pictures.get(`${page.source}/${page.sourcePage}`)?.facts;
		const tone = page.tone ?? usual;
		const paper = sheet.pages?.size;
		const turn = turnRead(page, facts);
		return {
			page,
			source,
			key: preparedKey(source.sha256, page, tone, paper, turn),
			readingKey: readingKey(source.sha256, page, paper, turn, sheet.questions)
		};
	});
	const readings = await readingsByKeys(
		db,
		keyed.map((k) => k.readingKey)
	);
	const weights = await weightsByKeys(
		db,
		keyed.map((k) => k.key),
		sheet.tone
	);
	const prepared: Map<string, PreparedRow> = await preparedByKeys(
		db,
		keyed.map((k) => k.key)
	);
	const pages = Object.fromEntries(
		keyed.map(({ page, source, key, readingKey }) => {
			const facts = prepared.get(key)?.facts ?? null;
			const reading = readings.get(readingKey) ?? null;
			const picture = pictures.get(`${page.source}/${page.sourcePage}`);
			return [
				page.id,
				{
					page,
					source,
					key,
					readingKey,
					reading,
					picture: picture?.facts ?? null,
					problem: picture?.problem ?? null,
					prepared: facts && reading && !reading.startsOnly ? afterReading(facts, reading.lines) : facts,
					bytes: prepared.get(key)?.bytes ?? null,
					weights: weights.get(key) ?? null,
					sourceName: source.name
				}
			];
		})
	);
	rememberPictures(packet.id, pages, usual);
	return { pages, sources };
}

/** The turn that reading put in the place of the one that the page was first prepared with. */
function turnRead(page: Page, facts: PictureFacts | null | undefined): Turn | null {
	if (page.turn !== null || !facts?.readTurn) return null;
	const turn = turnOf(page, facts);
	return turn === turnOf(page, { turn: facts.turn }) ? null : turn;
}

/**
 * What a person is shown of each page.
 * @param names by reading key, as they were matched to the roster
 */
export function pageViews(
	pages: Readonly<Record<string, KnownPage>>,
	names: ReadonlyMap<string, NameReading | null>,
	owner: RosterPerson,
	as: PacketAccess['as']
): Record<string, PageView> {
	return Object.fromEntries(
		Object.entries(pages).map(([id, known]) => {
			const { key, picture, prepared, bytes, weights, problem, sourceName, reading, source } = known;
			const matched = names.get(known.readingKey) ?? null;
			const other = otherThan(owner, matched);
			const isOwn = matched?.person?.given === owner.given && matched.person.family === owner.family;
			// A student is told that a name is not theirs, never whose it is.
			const mayKnow = as === 'teacher' || isOwn;
			const person = matched?.person ? { given: matched.person.given, family: matched.person.family } : null;
			const view: PageView = {
				key,
				picture,
				prepared,
				bytes,
				weights,
				problem,
				sourceName,
				// What names are looked for in stays here.
				reading: reading && withoutHeader(reading),
				name: matched && { ...matched, person: mayKnow ? person : null },
				otherPerson: other && (as === 'teacher' ? other : matched!.text),
				takenAt: source.takenAt === null ? null : Date.parse(source.takenAt)
			};
			return [id, view];
		})
	);
}

function withoutHeader({ header: _, ...reading }: PageReading): PageReading {
	return reading;
}

/** Whose names stand on the pages that were read, as far as they have been matched to the course's roster. */
export async function namesOn(
	db: Database,
	courseId: string,
	pages: Readonly<Record<string, KnownPage>>
): Promise<Map<string, NameReading | null>> {
	const read = Object.values(pages).filter((p) => p.reading);
	return namesByKeys(
		db,
		await rosterKey(db, courseId),
		read.map((p) => p.readingKey)
	);
}

export async function packetView(db: Database, access: PacketAccess): Promise<PacketView> {
	const { packet, assignment, owner } = access;
	const [{ pages, sources }, history, deliveries, link, troubles] = await Promise.all([
		packetPages(db, packet, assignment.ruleSheet),
		historyOf(db, packet.id),
		deliveriesOf(db, packet.id),
		phoneLinkOf(db, packet.id),
		troublesOf(db, packet.id)
	]);
	const names = await namesOn(db, assignment.courseId, pages);
	const stacks = undoStacks(history);
	return {
		id: packet.id,
		version: packet.version,
		packet: packet.state,
		canUndo: stacks.undo.length > 0,
		canRedo: stacks.redo.length > 0,
		assignment: {
			id: assignment.id,
			courseCode: assignment.courseCode,
			ruleSheet: { ...assignment.ruleSheet, course: assignment.ruleSheet.course || assignment.courseCode }
		},
		owner: { given: owner.given, family: owner.family },
		as: access.as,
		sources: sources.map(({ id, name, bytes, state, problem, clientKey }) => ({
			id,
			name,
			bytes,
			state,
			problem,
			clientKey
		})),
		pages: pageViews(pages, names, owner, access.as),
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
