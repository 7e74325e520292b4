import type { Services } from '../services/services';
import type { Assignment } from '../store/assignments';
import { pageRecords, type StoredPage } from '../store/pageRecords';
import type { PacketRow } from '../store/packets';
import { PRIORITY } from './kinds';

const LOOK_AGAIN = 400;

/**
 * The pages of a packet with their whole text, for which others wait no longer than for this.
 * @param wait milliseconds at most; after them, with what is known by then
 */
export async function withText(
	{ db, queue, reads }: Pick<Services, 'db' | 'queue' | 'reads'>,
	packet: PacketRow,
	assignment: Assignment,
	wait: number
): Promise<Record<string, StoredPage>> {
	const { id: packetId, state } = packet;
	const until = Date.now() + wait;
	for (let asked = false; ; asked = true) {
		const pages = await pageRecords(db, packet, assignment);
		const begun = state.strip.flatMap((id) => (pages[id]?.reading?.startsOnly ? [pages[id]] : []));
		if (!reads || begun.length === 0 || Date.now() > until) return pages;
		if (!asked) {
			const jobs = begun.map(({ page, readingKey: key }) => ({
				data: { packetId, pageId: page.id, key },
				packetId,
				priority: PRIORITY.looked
			}));
			await queue.addAll('read-page', jobs);
		}
		await new Promise((done) => setTimeout(done, LOOK_AGAIN));
	}
}
