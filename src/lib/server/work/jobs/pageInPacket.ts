import { assignmentById } from '../../store/assignments';
import type { Database } from '../../store/database';
import { pageRecords } from '../../store/pageRecords';
import { packetById } from '../../store/packets';

/** A page with what is known of it and what is asked of it; null when it is not there any more. */
export async function pageInPacket(db: Database, packetId: string, pageId: string) {
	const packet = await packetById(db, packetId);
	if (!packet) return null;
	const assignment = (await assignmentById(db, packet.assignmentId))!;
	const pages = await pageRecords(db, packet, assignment, { ids: [pageId] });
	const known = pages[pageId];
	return known ? { known, sheet: assignment.ruleSheet } : null;
}
