import { presentAt } from '../events/presence';
import { assignmentById } from '../store/assignments';
import type { Database } from '../store/database';
import { packetById } from '../store/packets';
import { personById } from '../store/people';
import type { PhoneLink } from '../store/phoneLinks';
import { sourcesOf } from '../store/sources';

/** All that a phone with a link is told. */
export interface PhoneView {
	readonly packetId: string;
	readonly assignment: string;
	readonly course: string;
	/** Given name only: the link may be seen by others. */
	readonly owner: string;
	readonly expiresAt: string;
	/** Whether the packet is open on a computer now. */
	readonly computer: boolean;
	/** What came through this link. */
	readonly brought: readonly {
		readonly key: string | null;
		readonly state: string;
		readonly problem: string | null;
	}[];
	/** The server's clock, milliseconds since 1970. */
	readonly now: number;
}

export async function phoneView(db: Database, link: PhoneLink): Promise<PhoneView> {
	const packet = (await packetById(db, link.packetId))!;
	const assignment = (await assignmentById(db, packet.assignmentId))!;
	const owner = (await personById(db, packet.personId))!;
	const brought = (await sourcesOf(db, packet.id)).filter((s) => s.phoneLinkId === link.id);
	return {
		packetId: packet.id,
		assignment: assignment.ruleSheet.title,
		course: assignment.courseCode,
		owner: owner.given,
		expiresAt: link.expiresAt,
		computer: presentAt(packet.id).computer > 0,
		brought: brought.map(({ clientKey, state, problem }) => ({ key: clientKey, state, problem })),
		now: Date.now()
	};
}
