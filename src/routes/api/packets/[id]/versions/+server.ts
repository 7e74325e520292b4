import { json, type RequestHandler } from '@sveltejs/kit';
import { differences } from '$lib/core/packet/difference';
import { packetFor } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { deliveriesOf } from '$lib/server/store/deliveries';
import { returnsOf } from '$lib/server/store/returns';
import { packetsAtVersions } from '$lib/server/store/packets';

/**
 * For each delivery, by its id, what changed in the packet since the one before it; the first has none. For each return,
 * by its id, what has changed since.
 */
export const GET: RequestHandler = async ({ params, locals }) => {
	const { db } = await services();
	const { packet } = await packetFor(db, locals, params.id!);
	const deliveries = (await deliveriesOf(db, packet.id)).reverse();
	const returns = await returnsOf(db, packet.id);
	const at = await packetsAtVersions(db, packet.id, [
		...deliveries.map((d) => d.packetVersion),
		...returns.map((r) => r.version)
	]);
	const changes: Record<string, string[]> = {};
	for (const [i, { id, packetVersion }] of deliveries.entries()) {
		const before = deliveries[i - 1];
		if (before) changes[id] = differences(at.get(before.packetVersion)!, at.get(packetVersion)!);
	}
	for (const { id, version } of returns) changes[id] = differences(at.get(version)!, packet.state);
	return json(changes);
};
