import { cutAsProposed, unlooked } from '../../../core/stack/heaps';
import { packetChanged } from '../../events/packetEvents';
import type { Services } from '../../services/services';
import { packetWithAssignment } from '../../store/assignments';
import { studentsOf } from '../../store/courses';
import { command } from '../../store/packets';
import { pageRecords } from '../../store/pageRecords';
import type { Handler } from '../kinds';
import { noteTrouble } from './troubles';

/** Proposes how the pages of a stack that came in are cut, once all of them have been looked at. */
export const cutStack = (services: Services): Handler<'cut-stack'> => ({
	run: ({ packetId }) => run(services, packetId),
	failed: (data, problem) => noteTrouble(services, data.packetId, 'cut-stack', data, problem)
});

async function run(services: Services, packetId: string): Promise<void> {
	const { db, pool } = services;
	try {
		const found = await packetWithAssignment(db, packetId);
		if (!found || found.packet.kind !== 'stack') return;
		const { packet, assignment } = found;
		const records = await pageRecords(db, packet, assignment);
		const pages = unlooked(packet.state).flatMap((id) => {
			const record = records[id];
			return record ? [{ page: packet.state.pages[id]!, record: { ...record, otherPerson: null } }] : [];
		});
		if (pages.length === 0) return;
		const { questions, pages: asked } = assignment.ruleSheet;
		const proposal = await pool.run('cutStack', {
			pages,
			roster: await studentsOf(db, assignment.courseId),
			questions,
			assignment: assignment.id,
			...(asked?.max ? { most: asked.max } : {})
		});
		await command(db, packetId, null, null, {
			kind: 'machine',
			// It may have been cut by another process, or pages may have gone aside meanwhile.
			change: (now) => {
				const open = new Set(unlooked(now));
				return proposal.order.every((id) => open.has(id)) ? cutAsProposed(now, proposal) : null;
			}
		});
		packetChanged(packetId);
	} finally {
		services.pages.forget('cut-stack', packetId);
	}
	await services.pages.ensure(packetId);
}
