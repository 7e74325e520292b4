import { isTooLarge } from '../../core/rules/rule/fileSize';
import { unlooked } from '../../core/stack/heaps';
import { packetWithAssignment } from '../store/assignments';
import type { Database } from '../store/database';
import { findingsKept, type FindingsKept } from '../store/findings';
import { lacksAt, pageLacks, type LacksAt, type PageLack } from '../store/pageLacks';
import { pageRecords, pagesOf, type PagesOf } from '../store/pageRecords';
import { troublesOf } from '../store/troubles';

/** What there is of a packet, as far as it decides what its pages lack. */
export interface Lack {
	readonly strip: readonly string[];
	readonly tray: readonly string[];
	readonly pages: ReadonlyMap<string, PageLack>;
	/** Pages that are kept less finely than they were prepared. */
	readonly encoded: ReadonlySet<string>;
	/** Jobs that were given up, as `job key`. */
	readonly stuck: ReadonlySet<string>;
	readonly tooLarge: boolean;
	/** Whether names were read that nobody has compared with the course's people. */
	readonly namesLack: boolean;
	/** Whether what the rules say of it as it is now is kept. */
	readonly checked: FindingsKept;
	/** Whether a stack has pages for which no cuts were proposed; null of a packet. */
	readonly uncut: boolean | null;
}

/** What was seen of a packet, and when: until it, its rule sheet or its roster change, only its news is asked for. */
interface Seen extends Pick<Lack, 'strip' | 'tray' | 'encoded' | 'uncut'> {
	at: LacksAt;
	readonly of: PagesOf;
	readonly pages: Map<string, PageLack>;
	/** Bytes that its file may have; undefined where nothing limits it, as nothing does with a stack. */
	readonly maxBytes: number | undefined;
	/** Whether its file was found too large as it is. */
	isTooLarge: boolean;
}

/** So many packets are remembered, those that were asked about last. */
const REMEMBERED = 100;

/** What a page's text and frame in the file take at most beside its image. */
const BESIDE_IMAGE = 20_000;

/**
 * What packets' pages lack. While pages are prepared and read it is asked after each of them, so that all of it every
 * time would cost the square of the pages: what was seen is remembered, and brought up to date by what is newer.
 */
export class PacketLacks {
	readonly #seen = new Map<string, Seen>();

	constructor(readonly db: Database) {}

	/** Null when the packet is not there any more. Calls for one packet must follow one another. */
	async of(packetId: string): Promise<Lack | null> {
		const { db } = this;
		const at = await lacksAt(db, packetId);
		const seen = at && ((await this.#broughtUpToDate(packetId, at)) ?? (await look(db, packetId, at.roster)));
		this.#seen.delete(packetId);
		if (!seen) return null;
		this.#seen.set(packetId, seen);
		const [oldest] = this.#seen.keys();
		if (this.#seen.size > REMEMBERED) this.#seen.delete(oldest!);

		const { strip, tray, pages, encoded, uncut } = seen;
		const troubles = await troublesOf(db, packetId);
		return {
			strip,
			tray,
			pages,
			encoded,
			uncut,
			stuck: new Set(troubles.map(({ job, data }) => `${job} ${'key' in data ? data.key : packetId}`)),
			tooLarge: await this.#isTooLarge(packetId, seen),
			namesLack: [...pages.values()].some((p) => p.read !== 'not' && !p.nameMatched),
			checked: await findingsKept(db, packetId, seen.at)
		};
	}

	/** What was seen with its news; null where that tells too little. */
	async #broughtUpToDate(packetId: string, at: LacksAt): Promise<Seen | null> {
		const seen = this.#seen.get(packetId);
		if (!seen) return null;
		const { version, sheetVersion, keyedBy, roster, news } = seen.at;
		if (at.version !== version || at.sheetVersion !== sheetVersion || at.keyedBy !== keyedBy) return null;
		if (at.roster !== roster) return null;
		if (at.news !== news) {
			// What becomes known between the two questions is asked for once more the next time.
			for (const lack of await pageLacks(this.db, seen.of, roster, news)) seen.pages.set(lack.id, lack);
			seen.at = at;
		}
		return seen;
	}

	/** Pages are weighed exactly only where the file may be too large, and only while one of them has not been. */
	async #isTooLarge(packetId: string, seen: Seen): Promise<boolean> {
		const { strip, pages, maxBytes } = seen;
		if (seen.isTooLarge || maxBytes === undefined) return seen.isTooLarge;
		const known = strip.flatMap((id) => pages.get(id) ?? []);
		if (known.every(({ prepared, weighed }) => !prepared || weighed)) return false;
		const most = known.reduce((sum, { bytes }) => sum + (bytes ?? 0) + BESIDE_IMAGE, 0);
		if (most <= maxBytes) return false;
		const found = await packetWithAssignment(this.db, packetId);
		if (!found) return false;
		const evidence = await pageRecords(this.db, found.packet, found.assignment);
		const sheet = found.assignment.ruleSheet;
		seen.isTooLarge = isTooLarge({ sheet, packet: found.packet.state, evidence });
		return seen.isTooLarge;
	}
}

/** All that there is of a packet. */
async function look(db: Database, packetId: string, roster: string): Promise<Seen | null> {
	const found = await packetWithAssignment(db, packetId);
	if (!found) return null;
	const { packet, assignment } = found;
	const of = pagesOf(packet, assignment);
	const { version, news, keyedBy, state } = packet;
	const lacks = await pageLacks(db, of, roster);
	return {
		at: { version, news, keyedBy, sheetVersion: assignment.version, roster },
		of,
		strip: state.strip,
		tray: state.tray.map((t) => t.page),
		pages: new Map(lacks.map((lack) => [lack.id, lack])),
		encoded: new Set(Object.values(state.pages).flatMap((p) => (p.encoding ? [p.id] : []))),
		uncut: packet.kind === 'stack' ? unlooked(state).length > 0 : null,
		maxBytes: packet.kind === 'packet' ? assignment.ruleSheet.file?.maxBytes : undefined,
		isTooLarge: false
	};
}
