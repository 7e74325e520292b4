import { packetChanged } from '../../events/packetEvents';
import type { Services } from '../../services/services';
import { pageViews } from '../../view/packetView';
import { packetWithAssignment, ruleSheetOf } from '../../store/assignments';
import { keepFindings } from '../../store/findings';
import { pageRecords } from '../../store/pageRecords';
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
		const found = await packetWithAssignment(db, packetId);
		if (!found) return;
		const { packet, assignment } = found;
		const owner = (await personById(db, packet.personId))!;
		const { findings, summary } = await pool.run('check', {
			sheet: ruleSheetOf(assignment, packet),
			packet: packet.state,
			records: pageViews('owner', owner, await pageRecords(db, packet, assignment)),
			person: { given: owner.given, family: owner.family },
			reads: services.reads
		});
		const { version, news } = packet;
		await keepFindings(db, packetId, { version, news, sheetVersion: assignment.version }, findings, summary);
		packetChanged(packetId);
	} finally {
		services.pages.forget('check-packet', packetId);
	}
	// It may have changed meanwhile.
	await services.pages.ensure(packetId);
}
