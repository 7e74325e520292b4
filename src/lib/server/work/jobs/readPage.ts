import { usualTone } from '../../../core/tone/usualTone';
import { packetsChanged } from '../../events/packetEvents';
import type { Services } from '../../services/services';
import { addReading, linesToRead } from '../../store/readings';
import { preparedPaths } from '../../vault/derived';
import type { Handler, Jobs } from '../kinds';
import { preparedPage } from './pageInPacket';
import { noteTrouble } from './troubles';

/** Looks at a page that is shown already: its labels, its number and its header, which people wait for. */
export const lookPage = (services: Services): Handler<'look-page'> => ({
	run: (data) => run(services, 'look-page', data),
	failed: (data, problem) => noteTrouble(services, data.packetId, 'look-page', data, problem)
});

/** Reads the whole text of a page. A page that cannot be read stays unread. */
export const readPage = (services: Services): Handler<'read-page'> => ({
	run: (data) => run(services, 'read-page', data),
	failed: (data, problem) => noteTrouble(services, data.packetId, 'read-page', data, problem)
});

async function run(
	services: Services,
	job: 'look-page' | 'read-page',
	{ packetId, pageId, key }: Jobs['read-page']
): Promise<void> {
	const { db, pool, derived } = services;
	try {
		const page = await preparedPage(services, packetId, pageId);
		if (!page || page.known.readingKey !== key) return;
		const { known, sheet, prepared } = page;
		// It may have been done for another packet.
		if (known.reading && (job === 'look-page' || !known.reading.startsOnly)) return;
		const { view } = preparedPaths(derived, known.key, (known.page.tone ?? usualTone(sheet)).name);
		const { dotsPerInch } = prepared;
		const input = { view, dotsPerInch, questions: sheet.questions };
		if (job === 'look-page') {
			const { reading, toRead } = await pool.run('lookAtText', input);
			packetsChanged(await addReading(db, key, reading, toRead));
		} else {
			const toRead = known.reading && (await linesToRead(db, key));
			const begun = known.reading && toRead ? { reading: known.reading, toRead } : null;
			packetsChanged(await addReading(db, key, await pool.run('readText', { ...input, begun })));
		}
	} finally {
		services.pages.forget(job, key);
	}
	await services.pages.ensure(packetId);
}
