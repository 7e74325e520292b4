import { packetsChanged } from '../../events/packetEvents';
import type { Services } from '../../services/services';
import { packetWithAssignment } from '../../store/assignments';
import { studentsOf } from '../../store/courses';
import { addNames, rosterKey } from '../../store/pageNames';
import { pageRecords } from '../../store/pageRecords';
import type { Handler } from '../kinds';
import { noteTrouble } from './troubles';

/** Matches the names on a packet's pages to the roster, and keeps what came of it for as long as neither changes. */
export const matchNames = (services: Services): Handler<'match-names'> => ({
	run: ({ packetId }) => run(services, packetId),
	failed: (data, problem) => noteTrouble(services, data.packetId, 'match-names', data, problem)
});

async function run(services: Services, packetId: string): Promise<void> {
	const { db, pool } = services;
	try {
		const found = await packetWithAssignment(db, packetId);
		if (!found) return;
		const { packet, assignment } = found;
		const { courseId } = assignment;
		const key = await rosterKey(db, courseId);
		const pages = await pageRecords(db, packet, assignment);
		const read = Object.values(pages).flatMap(({ reading, readingKey, nameMatched }) =>
			reading && !nameMatched
				? [{ readingKey, reading: { lines: reading.lines, header: reading.header } }]
				: []
		);
		if (read.length === 0) return;
		const roster = await studentsOf(db, courseId);
		packetsChanged(await addNames(db, key, await pool.run('matchNames', { pages: read, roster })));
	} finally {
		services.pages.forget('match-names', packetId);
	}
	await services.pages.ensure(packetId);
}
