import { packetPages } from '../../packetView';
import { assignmentById } from '../../store/assignments';
import type { Database } from '../../store/database';
import { packetById } from '../../store/packets';

/** A page with what is known of it and what is asked of it; null when it is not there any more. */
export async function pageInPacket(db: Database, packetId: string, pageId: string) {
	const packet = await packetById(db, packetId);
	if (!packet) return null;
	const sheet = (await assignmentById(db, packet.assignmentId))!.ruleSheet;
	const { pages } = await packetPages(db, packet, sheet, pageId);
	const known = pages[pageId];
	return known ? { known, sheet } : null;
}
