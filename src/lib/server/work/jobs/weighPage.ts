import { usualTone } from '../../../core/tone/usualTone';
import { packetsChanged } from '../../events/packetEvents';
import type { Services } from '../../services/services';
import { addWeights } from '../../store/weights';
import { preparedPaths } from '../../vault/derived';
import type { Handler, Jobs } from '../kinds';
import { preparedPage } from './pageInPacket';
import { noteTrouble } from './troubles';

/** Weighs the ways to keep a page in the file, because the file is too large as it is. */
export const weighPage = (services: Services): Handler<'weigh-page'> => ({
	run: (data) => run(services, data),
	failed: (data, problem) => noteTrouble(services, data.packetId, 'weigh-page', data, problem)
});

async function run(services: Services, { packetId, pageId, key }: Jobs['weigh-page']): Promise<void> {
	const { db, vault, pool, derived } = services;
	try {
		const page = await preparedPage(services, packetId, pageId);
		if (!page?.known.picture || page.known.key !== key || page.known.weights) return;
		const { known, sheet, prepared } = page;
		const tone = known.page.tone ?? usualTone(sheet);
		const result = await pool.run('weigh', {
			path: vault.pathOf(known.source.sha256),
			type: known.source.type!,
			page: known.page,
			facts: known.picture!,
			prepared,
			bytes: known.bytes!,
			tone,
			tones: sheet.tone,
			expectedPaper: sheet.pages?.size,
			view: preparedPaths(derived, key, tone.name).view
		});
		if (result.ok) packetsChanged(await addWeights(db, key, sheet.tone, result.weights));
	} finally {
		services.pages.forget('weigh-page', key);
	}
	await services.pages.ensure(packetId);
}
