import { usualTone } from '../../../core/tone/usualTone';
import { packetChanged } from '../../events/packetEvents';
import type { House } from '../../house';
import { addReading } from '../../store/readings';
import { preparedPaths } from '../derived';
import type { Handler, Jobs } from '../kinds';
import { pageInPacket } from './pageInPacket';
import { noteTrouble } from './troubles';

/** Reads a page that is shown already: its text, labels and number. A page that cannot be read stays unread. */
export const readPage = (house: House): Handler<'read-page'> => ({
	run: (data) => run(house, data),
	failed: (data, problem) => noteTrouble(house, data.packetId, 'read-page', data, problem)
});

async function run(house: House, { packetId, pageId, key }: Jobs['read-page']): Promise<void> {
	const { db, pool, derived } = house;
	try {
		const { known, sheet } = (await pageInPacket(db, packetId, pageId)) ?? {};
		if (!known?.prepared || !sheet || known.readingKey !== key || known.reading) return;
		const { view } = preparedPaths(derived, known.key, known.page.tone ?? usualTone(sheet));
		const { dotsPerInch } = known.prepared;
		await addReading(db, key, await pool.run('readText', { view, dotsPerInch, questions: sheet.questions }));
	} finally {
		house.pages.forget('read-page', key);
	}
	packetChanged(packetId);
	await house.pages.ensure(packetId);
}
