import { packetsChanged } from '../../events/packetEvents';
import type { House } from '../../house';
import { assignmentById } from '../../store/assignments';
import { studentsOf } from '../../store/courses';
import { packetById } from '../../store/packets';
import { addNames, rosterKey } from '../../store/pageNames';
import { pageRecords } from '../../store/pageRecords';
import type { Handler } from '../kinds';
import { noteTrouble } from './troubles';

/** Matches the names on a packet's pages to the roster, and keeps what came of it for as long as neither changes. */
export const matchNames = (house: House): Handler<'match-names'> => ({
	run: ({ packetId }) => run(house, packetId),
	failed: (data, problem) => noteTrouble(house, data.packetId, 'match-names', data, problem)
});

async function run(house: House, packetId: string): Promise<void> {
	const { db, pool } = house;
	try {
		const packet = await packetById(db, packetId);
		if (!packet) return;
		const assignment = (await assignmentById(db, packet.assignmentId))!;
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
		house.pages.forget('match-names', packetId);
	}
	await house.pages.ensure(packetId);
}
