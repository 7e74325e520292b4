import { usualTone } from '../../../core/tone/usualTone';
import { packetsChanged } from '../../events/packetEvents';
import type { House } from '../../house';
import { addReading } from '../../store/readings';
import { preparedPaths } from '../../vault/derived';
import type { Handler, Jobs } from '../kinds';
import { pageInPacket } from './pageInPacket';
import { noteTrouble } from './troubles';

/** Looks at a page that is shown already: its labels, its number and its header, which people wait for. */
export const lookPage = (house: House): Handler<'look-page'> => ({
	run: (data) => run(house, 'look-page', data),
	failed: (data, problem) => noteTrouble(house, data.packetId, 'look-page', data, problem)
});

/** Reads the whole text of a page. A page that cannot be read stays unread. */
export const readPage = (house: House): Handler<'read-page'> => ({
	run: (data) => run(house, 'read-page', data),
	failed: (data, problem) => noteTrouble(house, data.packetId, 'read-page', data, problem)
});

async function run(
	house: House,
	job: 'look-page' | 'read-page',
	{ packetId, pageId, key }: Jobs['read-page']
): Promise<void> {
	const { db, pool, derived } = house;
	try {
		const { known, sheet } = (await pageInPacket(db, packetId, pageId)) ?? {};
		if (!known?.prepared || !sheet || known.readingKey !== key) return;
		// It may have been done for another packet.
		if (known.reading && (job === 'look-page' || !known.reading.startsOnly)) return;
		const { view } = preparedPaths(derived, known.key, (known.page.tone ?? usualTone(sheet)).name);
		const { dotsPerInch } = known.prepared;
		const step = job === 'look-page' ? 'lookAtText' : 'readText';
		const reading = await pool.run(step, { view, dotsPerInch, questions: sheet.questions });
		packetsChanged(await addReading(db, key, reading));
	} finally {
		house.pages.forget(job, key);
	}
	await house.pages.ensure(packetId);
}
