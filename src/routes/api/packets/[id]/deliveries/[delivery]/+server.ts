import { error, json, type RequestHandler } from '@sveltejs/kit';
import { packetFor } from '$lib/server/access/access';
import { packetChanged } from '$lib/server/events/packetEvents';
import { house } from '$lib/server/house';
import { deliveryById, setDelivery } from '$lib/server/store/deliveries';

/** Recalls a delivery that was received. */
export const DELETE: RequestHandler = async ({ params, locals }) => {
	const { db, queue } = await house();
	const { packet } = await packetFor(db, locals, params.id!);
	const delivery = /^[0-9a-f-]{36}$/.test(params.delivery!) ? await deliveryById(db, params.delivery!) : null;
	if (!delivery || delivery.packetId !== packet.id) error(404, 'There is no such delivery.');
	if (delivery.state !== 'received') error(409, 'Only what has been received can be recalled.');
	await setDelivery(db, delivery.id, 'recalling');
	await queue.add('deliver', { deliveryId: delivery.id }, { priority: 10 });
	packetChanged(packet.id);
	return json(await deliveryById(db, delivery.id));
};
