import type { Services } from '../services/services';
import type { Assignment } from '../store/assignments';
import { pageRecords, type StoredPage } from '../store/pageRecords';
import type { PacketRow } from '../store/packets';
import { PRIORITY } from './kinds';
import { forgetLost } from './lostPictures';

const LOOK_AGAIN = 400;

/**
 * The pages of a packet as a file needs them: with their pictures, which are made again where they were lost, and with
 * their whole text, for which others wait no longer than for this.
 * @param wait milliseconds at most; after them, with what is known by then
 */
export async function wholePages(
	services: Pick<Services, 'db' | 'queue' | 'reads' | 'derived' | 'pages'>,
	packet: PacketRow,
	assignment: Assignment,
	wait: number
): Promise<Record<string, StoredPage>> {
	const { db, queue, reads } = services;
	const { id: packetId, state } = packet;
	const until = Date.now() + wait;
	const onStrip = (pages: Record<string, StoredPage>) => state.strip.flatMap((id) => pages[id] ?? []);
	const first = await pageRecords(db, packet, assignment);
	const lost = await forgetLost(services, assignment.ruleSheet, onStrip(first));
	if (lost.length > 0) await services.pages.ensure(packetId);
	for (let asked = false; ;) {
		const pages = await pageRecords(db, packet, assignment);
		const isBeingMade = lost.some((id) => pages[id] && !pages[id].prepared && !pages[id].problem);
		const begun = reads ? onStrip(pages).filter((p) => p.reading?.startsOnly) : [];
		if ((!isBeingMade && begun.length === 0) || Date.now() > until) return pages;
		if (!asked && !isBeingMade) {
			const jobs = begun.map(({ page, readingKey: key }) => ({
				data: { packetId, pageId: page.id, key },
				packetId,
				priority: PRIORITY.looked
			}));
			await queue.addAll('read-page', jobs);
			asked = true;
		}
		await new Promise((done) => setTimeout(done, LOOK_AGAIN));
	}
}
