import { packetChanged } from '../../events/packetEvents';
import type { House } from '../../house';
import { namesOn, packetPages } from '../../packetView';
import { assignmentById } from '../../store/assignments';
import { studentsOf } from '../../store/courses';
import { packetById } from '../../store/packets';
import { addNames, rosterKey } from '../../store/pageNames';
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
		const { ruleSheet, courseId } = (await assignmentById(db, packet.assignmentId))!;
		const { pages } = await packetPages(db, packet, ruleSheet);
		const key = await rosterKey(db, courseId);
		const there = await namesOn(db, courseId, pages);
		const read = Object.values(pages).flatMap(({ reading, readingKey }) =>
			reading && !there.has(readingKey)
				? [{ readingKey, reading: { lines: reading.lines, header: reading.header } }]
				: []
		);
		if (read.length === 0) return;
		const roster = await studentsOf(db, courseId);
		await addNames(db, key, await pool.run('matchNames', { pages: read, roster }));
	} finally {
		house.pages.forget('match-names', packetId);
	}
	packetChanged(packetId);
}
