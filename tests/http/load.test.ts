import { expect, it } from 'vitest';
import { runLoad } from '../../bench/load';

it('a class at once: everybody’s pages are prepared, pictures are seen, edits are kept, and the main thread has time', async () => {
	const students = 8;
	const run = await runLoad({ students, minutes: 2, photographs: 2, size: [700, 930], reads: false });
	expect(run.packets.map((p) => p.prepared)).toEqual(Array.from({ length: students }, () => 2));
	expect(run.figures.first).toHaveLength(students);
	expect(run.figures.thumbnails).toHaveLength(2 * students);
	expect(run.figures.edits.length).toBeGreaterThan(0);
	for (const { name, acknowledged } of run.packets) expect(name).toBe(acknowledged);
	// A share, not a time: most of the work is done elsewhere.
	expect(run.main / run.total).toBeLessThan(0.5);
});
