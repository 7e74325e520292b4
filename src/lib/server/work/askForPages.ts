import type { Database } from '../store/database';
import { PRIORITY, type JobName, type Jobs } from './kinds';
import { PacketLacks, type Lack } from './packetLacks';
import { type Queue } from './queue';

/** Milliseconds for which something is not asked for again, where other processes may do it. */
const ASKED_FOR = 5 * 60_000;

type PageJob = 'prepare-page' | 'look-page' | 'read-page' | 'weigh-page';

/**
 * Asks for whatever a packet's pages still lack: to be prepared with their present settings, read, weighed, and their
 * names matched. What was asked for is not asked again until it is done; calls that come close together become one.
 */
export class PageAsker {
	/** When each was asked for: another process may have done it since, and nobody said so here. */
	readonly #asked = new Map<string, number>();
	/** Packets that lack what was asked for another: the same picture may lie in several. */
	readonly #alsoWanted = new Map<string, Set<string>>();
	#stopped = false;
	readonly #running = new Map<string, { again: boolean; first: string | undefined; done: Promise<void> }>();

	constructor(
		readonly db: Database,
		readonly queue: Queue,
		readonly reads: boolean,
		readonly lacks: { of(packetId: string): Promise<Lack | null> } = new PacketLacks(db)
	) {}

	/** @param first the page that somebody looks at now */
	ensure(packetId: string, first?: string): Promise<void> {
		if (this.#stopped) return Promise.resolve();
		const running = this.#running.get(packetId);
		if (running) {
			running.again = true;
			running.first ??= first;
			return running.done;
		}
		const state = { again: false, first, done: Promise.resolve() };
		this.#running.set(packetId, state);
		state.done = (async () => {
			try {
				do {
					state.again = false;
					await this.#ask(packetId, state.first);
				} while (state.again);
			} finally {
				// In the same breath as the last look at `again`: who comes later begins anew.
				this.#running.delete(packetId);
			}
		})();
		return state.done;
	}

	/** What was asked for is done, or has failed: what others who want it lack is asked for anew. */
	forget(job: JobName, key: string): void {
		const once = `${job} ${key}`;
		this.#asked.delete(once);
		const others = this.#alsoWanted.get(once) ?? [];
		this.#alsoWanted.delete(once);
		for (const packetId of others) void this.ensure(packetId).catch(console.error);
	}

	/** Asks for nothing more; resolves when what was being asked has been. */
	async stop(): Promise<void> {
		this.#stopped = true;
		await Promise.allSettled([...this.#running.values()].map(({ done }) => done));
	}

	#isAsked(once: string): boolean {
		const at = this.#asked.get(once);
		return at !== undefined && (this.db.news === null || Date.now() - at < ASKED_FOR);
	}

	async #ask(packetId: string, first: string | undefined): Promise<void> {
		const found = await this.lacks.of(packetId);
		if (!found) return;
		const { strip, tray, pages, encoded, stuck, tooLarge, namesLack, checked, uncut } = found;
		let isWhole = true;
		let isLookedAt = true;
		const inStrip = new Set(strip);
		const wanted: { [job in PageJob]?: { data: Jobs[PageJob]; packetId: string; priority: number }[] } = {};
		const ask = (job: PageJob, pageId: string, key: string, most = Infinity) => {
			const once = `${job} ${key}`;
			if (stuck.has(once)) return;
			isWhole = false;
			if (job === 'prepare-page' || job === 'look-page') isLookedAt = false;
			if (this.#isAsked(once)) {
				const others = this.#alsoWanted.get(once) ?? new Set();
				this.#alsoWanted.set(once, others.add(packetId));
				return;
			}
			this.#asked.set(once, Date.now());
			const priority =
				pageId === first ? PRIORITY.looked : inStrip.has(pageId) ? PRIORITY.waited : PRIORITY.later;
			const one = { data: { packetId, pageId, key }, packetId, priority: Math.min(most, priority) };
			(wanted[job] ??= []).push(one);
		};
		for (const id of [...strip, ...tray]) {
			const known = pages.get(id);
			// What went while this was looked up is asked for by nobody.
			if (!known || known.problem) continue;
			const { key, readingKey, seen, turned, prepared, read, weighed } = known;
			// The same picture in another packet has been prepared there, but is not known here.
			if (!prepared || !seen) ask('prepare-page', id, key);
			// Before a page is read it has to be known which way is up. Nobody waits for the whole text, and where a stack is to
			// be cut somebody waits for the beginnings of all its lines.
			else if (this.reads && !turned) isWhole = isLookedAt = false;
			else if (this.reads) {
				if (read === 'not') ask('look-page', id, readingKey);
				else if (read === 'starts' && uncut !== true) ask('read-page', id, readingKey, PRIORITY.background);
			}
			if (prepared && seen && !weighed && (tooLarge || encoded.has(id))) ask('weigh-page', id, key);
		}
		for (const job of Object.keys(wanted) as PageJob[]) await this.queue.addAll(job, wanted[job]!);
		if (uncut !== null) {
			// A stack is cut as soon as the beginnings of all lines are known; it is nobody's packet.
			if (uncut && isLookedAt) await this.#askOnce('cut-stack', packetId, stuck, PRIORITY.waited);
			return;
		}
		if (namesLack) await this.#askOnce('match-names', packetId, stuck, PRIORITY.waited);
		// What the rules say is kept as soon as they can say it, and again once nothing more will become known.
		else if (strip.length > 0 && (isWhole ? checked !== 'all' : isLookedAt && checked === 'none'))
			await this.#askOnce('check-packet', packetId, stuck, PRIORITY.later);
	}

	async #askOnce(
		job: 'match-names' | 'check-packet' | 'cut-stack',
		packetId: string,
		stuck: ReadonlySet<string>,
		priority: number
	): Promise<void> {
		const once = `${job} ${packetId}`;
		if (this.#isAsked(once) || stuck.has(once)) return;
		this.#asked.set(once, Date.now());
		await this.queue.add(job, { packetId }, { packetId, priority });
	}
}
