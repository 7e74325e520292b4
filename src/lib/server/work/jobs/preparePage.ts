import { usualTone } from '../../../core/tone/usualTone';
import { packetChanged } from '../../events/packetEvents';
import type { House } from '../../house';
import { addPrepared } from '../../store/prepared';
import { setPictureFacts, setPictureProblem } from '../../store/sources';
import { preparedPaths, previewPath } from '../derived';
import type { Handler, Jobs } from '../kinds';
import { pageInPacket } from './pageInPacket';
import { noteTrouble } from './troubles';

/** Prepares a page with its present settings. */
export const preparePage = (house: House): Handler<'prepare-page'> => ({
	run: (data) => prepare(house, data),
	failed: (data, problem) => giveUp(house, data, problem)
});

async function prepare(house: House, { packetId, pageId, key }: Jobs['prepare-page']): Promise<void> {
	const { db, vault, pool, derived } = house;
	try {
		const { known, sheet } = (await pageInPacket(db, packetId, pageId)) ?? {};
		// Settings have moved on, or another job was faster: nothing to do.
		if (!known || !sheet || known.key !== key || !known.source.type) return;
		if (known.prepared && known.picture) return;
		const tone = known.page.tone ?? usualTone(sheet);
		const result = await pool.run('prepare', {
			path: vault.pathOf(known.source.sha256),
			type: known.source.type,
			page: known.page,
			facts: known.picture,
			usualTone: tone,
			expectedPaper: sheet.pages?.size,
			preview: previewPath(derived, known.source.sha256, known.page.sourcePage),
			paths: preparedPaths(derived, key, tone)
		});
		const { source, sourcePage } = known.page;
		if (result.ok) {
			if (!known.picture) {
				await setPictureFacts(db, source, sourcePage, result.picture);
				if (house.reads) {
					const reading = { packetId, sourceId: source, index: sourcePage };
					await house.queue.add('read-picture', reading, { packetId });
				}
			}
			await addPrepared(db, { key, facts: result.facts, bytes: result.bytes });
		} else await setPictureProblem(db, source, sourcePage, result.problem);
	} finally {
		house.pages.forget('prepare-page', key);
	}
	packetChanged(packetId);
	await house.pages.ensure(packetId);
}

async function giveUp(house: House, data: Jobs['prepare-page'], problem: string): Promise<void> {
	const { db } = house;
	const { packetId, pageId, key } = data;
	const { known } = (await pageInPacket(db, packetId, pageId)) ?? {};
	if (!known || known.key !== key || known.prepared) return;
	await setPictureProblem(
		db,
		known.page.source,
		known.page.sourcePage,
		`This page could not be prepared. ${problem}`
	);
	await noteTrouble(house, packetId, 'prepare-page', data, problem);
}
