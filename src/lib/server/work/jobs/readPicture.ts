import { packetChanged } from '../../events/packetEvents';
import type { House } from '../../house';
import { command } from '../../store/packets';
import { pictureAt, setPictureFacts, sourceById } from '../../store/sources';
import type { Handler, Jobs } from '../kinds';
import { splitSpread } from '../splitSpread';
import { noteTrouble } from './troubles';

/** Reads a picture once its page is shown. What was prepared lying wrong is prepared anew. */
export const readPicture = (house: House): Handler<'read-picture'> => ({
	run: (data) => read(house, data),
	failed: (data, problem) => giveUp(house, data, problem)
});

async function read(house: House, { packetId, sourceId, index }: Jobs['read-picture']): Promise<void> {
	const { db, vault, pool } = house;
	const source = await sourceById(db, sourceId);
	const picture = source && (await pictureAt(db, sourceId, index));
	if (!source?.type || !picture?.facts || picture.facts.readTurn) return;
	const result = await pool.run('read', {
		path: vault.pathOf(source.sha256),
		type: source.type,
		sourcePage: index,
		corners: picture.facts.spread?.halves[0] ?? picture.facts.outline.corners
	});
	if (!result.ok) return;
	const facts = { ...picture.facts, readTurn: result.turn };
	await setPictureFacts(db, sourceId, index, facts);
	if (facts.spread) {
		await command(db, packetId, source.broughtBy, null, {
			kind: 'machine',
			change: (packet) => splitSpread(packet, sourceId, index, facts)
		});
	}
	packetChanged(packetId);
	await house.pages.ensure(packetId);
}

/** Without reading, the layout's guess stands, and nobody waits for a better one. */
async function giveUp(house: House, data: Jobs['read-picture'], problem: string): Promise<void> {
	const { db } = house;
	const { packetId, sourceId, index } = data;
	const facts = (await pictureAt(db, sourceId, index))?.facts;
	if (!facts) return;
	await setPictureFacts(db, sourceId, index, { ...facts, readTurn: { ...facts.turn, confidence: 0 } });
	await noteTrouble(house, packetId, 'read-picture', data, problem);
	await house.pages.ensure(packetId);
}
