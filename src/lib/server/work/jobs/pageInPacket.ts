import { packetWithAssignment } from '../../store/assignments';
import type { Database } from '../../store/database';
import { pageRecords } from '../../store/pageRecords';
import type { Services } from '../../services/services';
import { forgetLost } from '../lostPictures';

/** A page with what is known of it and what is asked of it; null when it is not there any more. */
export async function pageInPacket(db: Database, packetId: string, pageId: string) {
	const found = await packetWithAssignment(db, packetId);
	if (!found) return null;
	const { packet, assignment } = found;
	const pages = await pageRecords(db, packet, assignment, { ids: [pageId] });
	const known = pages[pageId];
	return known ? { known, sheet: assignment.ruleSheet, inStack: packet.kind === 'stack' } : null;
}

/** The same of a page that has its pictures; null as well where they were lost, and are to be made again first. */
export async function preparedPage(
	services: Pick<Services, 'db' | 'derived' | 'pages'>,
	packetId: string,
	pageId: string
) {
	const found = await pageInPacket(services.db, packetId, pageId);
	if (!found?.known.prepared) return null;
	const lost = await forgetLost(services, found.sheet, [found.known]);
	if (lost.length === 0) return { ...found, prepared: found.known.prepared };
	await services.pages.ensure(packetId);
	return null;
}
