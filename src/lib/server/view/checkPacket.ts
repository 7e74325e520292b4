import { withLabelsSettled } from '../../core/mapping/settleLabels';
import { check } from '../../core/check/check';
import type { Finding } from '../../core/rules/finding';
import type { PacketAccess } from '../access/access';
import { pageViews } from './packetView';
import { ruleSheetOf } from '../store/assignments';
import type { Database } from '../store/database';
import { pageRecords, type StoredPage } from '../store/pageRecords';

/** What every rule says of a packet now, as its workspace shows it. */
export async function checkPacket(
	db: Database,
	{ packet, assignment, owner, as }: PacketAccess,
	fileType?: 'pdf' | 'zip'
): Promise<{ findings: Finding[]; pages: Record<string, StoredPage> }> {
	const pages = await pageRecords(db, packet, assignment);
	const findings = check({
		sheet: ruleSheetOf(assignment, packet),
		packet: packet.state,
		evidence: withLabelsSettled(pageViews(as, owner, pages), packet.state),
		person: owner,
		...(fileType ? { fileType } : {}),
		now: Date.now()
	});
	return { findings, pages };
}
