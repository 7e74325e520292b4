import { usualTone } from '../../../core/tone/usualTone';
import { packetsChanged } from '../../events/packetEvents';
import type { House } from '../../house';
import { addPrepared } from '../../store/prepared';
import { setPictureFacts, setPictureProblem } from '../../store/sources';
import { preparedPaths, previewPath } from '../../vault/derived';
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
	const changed = new Set<string>();
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
			paths: preparedPaths(derived, key, tone.name)
		});
		const { source, sourcePage } = known.page;
		if (result.ok) {
			if (!known.picture) {
				for (const id of await setPictureFacts(db, source, sourcePage, result.picture)) changed.add(id);
				if (house.reads) {
					const reading = { packetId, sourceId: source, index: sourcePage };
					await house.queue.add('read-picture', reading, { packetId });
				}
			}
			const { facts, bytes } = result;
			for (const id of await addPrepared(db, { key, facts, bytes })) changed.add(id);
		} else for (const id of await setPictureProblem(db, source, sourcePage, result.problem)) changed.add(id);
	} finally {
		house.pages.forget('prepare-page', key);
	}
	packetsChanged(changed);
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
