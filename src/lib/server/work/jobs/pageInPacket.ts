import { assignmentById } from '../../store/assignments';
import type { Database } from '../../store/database';
import { pageOfPacket } from '../../store/packets';
import { knownPages, pagesOf } from '../../store/pageRecords';
import type { Services } from '../../services/services';
import { forgetLost } from '../lostPictures';

/** A page with what is known of it and what is asked of it; null when it is not there any more. */
export async function pageInPacket(db: Database, packetId: string, pageId: string) {
	const found = await pageOfPacket(db, packetId, pageId);
	if (!found) return null;
	const { page, kind } = found;
	const assignment = (await assignmentById(db, found.assignmentId))!;
	const known = (await knownPages(db, pagesOf(found, assignment), { ids: [pageId] }))[pageId];
	return known ? { known: { ...known, page }, sheet: assignment.ruleSheet, inStack: kind === 'stack' } : null;
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
