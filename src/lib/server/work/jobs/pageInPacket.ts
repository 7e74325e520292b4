import { packetWithAssignment } from '../../store/assignments';
import type { Database } from '../../store/database';
import { pageRecords } from '../../store/pageRecords';

/** A page with what is known of it and what is asked of it; null when it is not there any more. */
export async function pageInPacket(db: Database, packetId: string, pageId: string) {
	const found = await packetWithAssignment(db, packetId);
	if (!found) return null;
	const { packet, assignment } = found;
	const pages = await pageRecords(db, packet, assignment, { ids: [pageId] });
	const known = pages[pageId];
	return known ? { known, sheet: assignment.ruleSheet } : null;
}
