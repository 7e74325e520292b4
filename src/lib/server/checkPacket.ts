import { check } from '../core/rules/check';
import { evidenceOf } from '../core/rules/evidence';
import type { Finding } from '../core/rules/finding';
import type { PacketAccess } from './access/access';
import { namesOn, packetPages, pageViews, type KnownPage } from './packetView';
import type { Database } from './store/database';

/** What every rule says of a packet now, as its workspace shows it. */
export async function checkPacket(
	db: Database,
	{ packet, assignment, owner, as }: PacketAccess,
	fileType?: 'pdf' | 'zip'
): Promise<{ findings: Finding[]; pages: Record<string, KnownPage> }> {
	const { pages } = await packetPages(db, packet, assignment.ruleSheet);
	const names = await namesOn(db, assignment.courseId, pages);
	const findings = check({
		sheet: { ...assignment.ruleSheet, course: assignment.ruleSheet.course || assignment.courseCode },
		packet: packet.state,
		evidence: evidenceOf(pageViews(pages, names, owner, as)),
		person: owner,
		...(fileType ? { fileType } : {}),
		now: Date.now()
	});
	return { findings, pages };
}
