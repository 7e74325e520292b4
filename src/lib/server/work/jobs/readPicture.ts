import { packetChanged } from '../../events/packetEvents';
import type { Services } from '../../services/services';
import { command } from '../../store/packets';
import { pictureAt, setPictureFacts, sourceById } from '../../store/sources';
import type { Handler, Jobs } from '../kinds';
import { splitSpread } from '../splitSpread';
import { noteTrouble } from './troubles';

/** Reads a picture once its page is shown. What was prepared lying wrong is prepared anew. */
export const readPicture = (services: Services): Handler<'read-picture'> => ({
	run: (data) => read(services, data),
	failed: (data, problem) => giveUp(services, data, problem)
});

async function read(services: Services, { packetId, sourceId, index }: Jobs['read-picture']): Promise<void> {
	const { db, vault, pool } = services;
	const source = await sourceById(db, sourceId);
	const picture = source && (await pictureAt(db, sourceId, index));
	if (!source?.type || !picture?.facts || picture.facts.readTurn) return;
	const result = await pool.run('detectOrientation', {
		path: vault.pathOf(source.sha256),
		type: source.type,
		sourcePage: index,
		corners: picture.facts.spread?.halves[0] ?? picture.facts.outline.corners
	});
	if (!result.ok) return giveUp(services, { packetId, sourceId, index }, result.problem);
	const facts = { ...picture.facts, readTurn: result.turn };
	await setPictureFacts(db, sourceId, index, facts);
	if (facts.spread) {
		await command(db, packetId, source.broughtBy, null, {
			kind: 'machine',
			change: (packet) => splitSpread(packet, sourceId, index, facts)
		});
	}
	packetChanged(packetId);
	await services.pages.ensure(packetId);
}

/** Without reading, the layout's guess stands, and nobody waits for a better one. */
async function giveUp(services: Services, data: Jobs['read-picture'], problem: string): Promise<void> {
	const { db } = services;
	const { packetId, sourceId, index } = data;
	const facts = (await pictureAt(db, sourceId, index))?.facts;
	if (!facts) return;
	await setPictureFacts(db, sourceId, index, { ...facts, readTurn: { ...facts.turn, confidence: 0 } });
	await noteTrouble(services, packetId, 'read-picture', data, problem);
	await services.pages.ensure(packetId);
}
