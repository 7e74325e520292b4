import { rm } from 'node:fs/promises';
import { usualTone } from '../../../core/tone/usualTone';
import { packetsChanged } from '../../events/packetEvents';
import type { Services } from '../../services/services';
import type { Database } from '../../store/database';
import { addPrepared } from '../../store/prepared';
import { setPictureFacts, setPictureProblem, sourceById } from '../../store/sources';
import { preparedPaths, previewPath } from '../../vault/derived';
import type { Handler, Jobs } from '../kinds';
import { pageInPacket } from './pageInPacket';
import { noteTrouble } from './troubles';

/** Prepares a page with its present settings. */
export const preparePage = (services: Services): Handler<'prepare-page'> => ({
	run: (data) => prepare(services, data),
	failed: (data, problem) => giveUp(services, data, problem)
});

async function prepare(services: Services, { packetId, pageId, key }: Jobs['prepare-page']): Promise<void> {
	const { db, vault, pool, derived } = services;
	const changed = new Set<string>();
	try {
		const { known, sheet, inStack = false } = (await pageInPacket(db, packetId, pageId)) ?? {};
		// Settings have moved on, or another job was faster: nothing to do.
		if (!known || !sheet || known.key !== key || !known.source.type) return;
		if (known.prepared && known.picture) return;
		const tone = known.page.tone ?? usualTone(sheet);
		const preview = previewPath(derived, known.source.sha256, known.page.sourcePage);
		const paths = preparedPaths(derived, key, tone.name);
		const result = await pool.run('prepare', {
			path: vault.pathOf(known.source.sha256),
			type: known.source.type,
			page: known.page,
			facts: known.picture,
			usualTone: tone,
			expectedPaper: sheet.pages?.size,
			inStack,
			preview,
			paths
		});
		const { source, sourcePage } = known.page;
		if (!(await sourceById(db, source))) {
			await dropUnused(db, { key, sha256: known.source.sha256, paths: Object.values(paths), preview });
			return;
		}
		if (result.ok) {
			if (!known.picture) {
				for (const id of await setPictureFacts(db, source, sourcePage, result.picture)) changed.add(id);
				if (services.reads) {
					const reading = { packetId, sourceId: source, index: sourcePage };
					await services.queue.add('read-picture', reading, { packetId });
				}
			}
			const { facts, bytes } = result;
			for (const id of await addPrepared(db, { key, facts, bytes })) changed.add(id);
		} else for (const id of await setPictureProblem(db, source, sourcePage, result.problem)) changed.add(id);
	} finally {
		services.pages.forget('prepare-page', key);
	}
	packetsChanged(changed);
	await services.pages.ensure(packetId);
}

/** Erased while it was prepared: what was written after the sweep is not to outlive it, unless somebody else has the same. */
async function dropUnused(
	db: Database,
	of: {
		readonly key: string;
		readonly sha256: string;
		readonly paths: readonly string[];
		readonly preview: string;
	}
): Promise<void> {
	const isKept = async (sql: string, value: string) => (await db.query(sql, [value])).length > 0;
	if (!(await isKept('select 1 from packet_page where prepared_key = $1 limit 1', of.key))) {
		for (const path of of.paths) await rm(path, { force: true });
	}
	if (!(await isKept('select 1 from source where sha256 = $1 limit 1', of.sha256))) {
		await rm(of.preview, { force: true });
	}
}

async function giveUp(services: Services, data: Jobs['prepare-page'], problem: string): Promise<void> {
	const { db } = services;
	const { packetId, pageId, key } = data;
	const { known } = (await pageInPacket(db, packetId, pageId)) ?? {};
	if (!known || known.key !== key || known.prepared) return;
	await setPictureProblem(
		db,
		known.page.source,
		known.page.sourcePage,
		`This page could not be prepared. ${problem}`
	);
	await noteTrouble(services, packetId, 'prepare-page', data, problem);
}
