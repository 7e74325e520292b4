import type { Services } from '../../services/services';
import { pageViews } from '../../view/packetView';
import { assignmentById } from '../../store/assignments';
import { keepFindings } from '../../store/findings';
import { pageRecords } from '../../store/pageRecords';
import { packetById } from '../../store/packets';
import { personById } from '../../store/people';
import type { Handler } from '../kinds';
import { noteTrouble } from './troubles';

/** Works out what the rules say of a packet of which everything is known, and keeps it for lists of packets. */
export const checkPacket = (services: Services): Handler<'check-packet'> => ({
	run: ({ packetId }) => run(services, packetId),
	failed: (data, problem) => noteTrouble(services, data.packetId, 'check-packet', data, problem)
});

async function run(services: Services, packetId: string): Promise<void> {
	const { db, pool } = services;
	try {
		const packet = await packetById(db, packetId);
		if (!packet) return;
		const assignment = (await assignmentById(db, packet.assignmentId))!;
		const owner = (await personById(db, packet.personId))!;
		const { ruleSheet, courseCode } = assignment;
		const findings = await pool.run('check', {
			sheet: { ...ruleSheet, course: ruleSheet.course || courseCode },
			packet: packet.state,
			records: pageViews('owner', owner, await pageRecords(db, packet, assignment)),
			person: { given: owner.given, family: owner.family }
		});
		const { version, news } = packet;
		await keepFindings(db, packetId, { version, news, sheetVersion: assignment.version }, findings);
	} finally {
		services.pages.forget('check-packet', packetId);
	}
	// It may have changed meanwhile.
	await services.pages.ensure(packetId);
}
