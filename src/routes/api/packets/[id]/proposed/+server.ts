import { error, json, type RequestHandler } from '@sveltejs/kit';
import Joi from 'joi';
import { packetFor } from '$lib/server/access/access';
import { packetChanged } from '$lib/server/events/packetEvents';
import { services } from '$lib/server/services/services';
import { ruleSheetOf } from '$lib/server/store/assignments';
import { pageRecords } from '$lib/server/store/pageRecords';
import { command, StaleVersionError } from '$lib/server/store/packets';
import { pageViews } from '$lib/server/view/packetView';

const body = Joi.object<{ version: number }>({ version: Joi.number().integer().min(0).required() });

/** Takes the order and the map that were surely read off the pages, as one edit. Says whether there was anything. */
export const POST: RequestHandler = async ({ params, locals, request }) => {
	const { db, pool, pages } = await services();
	const { packet, assignment, owner, me, as } = await packetFor(db, locals, params.id!);
	const { value, error: problem } = body.validate(await request.json().catch(() => null));
	if (problem) error(400, problem.message);
	if (packet.kind === 'stack') error(422, 'A stack has no questions; the packets that are made of it have.');
	if (value!.version !== packet.version) error(409, 'The packet was changed in the meantime.');
	const change = await pool.run('takeProposed', {
		sheet: ruleSheetOf(assignment),
		packet: packet.state,
		records: pageViews(as, owner, await pageRecords(db, packet, assignment))
	});
	if (!change) return json({ taken: false, version: packet.version });
	try {
		const after = await command(db, packet.id, me.id, packet.version, { kind: 'edit', change });
		packetChanged(packet.id);
		void pages.ensure(packet.id).catch(console.error);
		return json({ taken: true, version: after.version });
	} catch (reason) {
		if (reason instanceof StaleVersionError) error(409, reason.message);
		throw reason;
	}
};
