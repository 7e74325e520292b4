import { error, json, type RequestHandler } from '@sveltejs/kit';
import { deliveryFor } from '$lib/server/access/access';
import { packetChanged } from '$lib/server/events/packetEvents';
import { house } from '$lib/server/house';
import { deliveryById, isOpen, settleDelivery } from '$lib/server/store/deliveries';

/** Recalls a delivery that was received, or calls off one that is still on its way. */
export const DELETE: RequestHandler = async ({ params, locals }) => {
	const { db, queue } = await house();
	const { packet, delivery } = await deliveryFor(db, locals, params.id!, params.delivery!);
	const { id, state } = delivery;
	const taken =
		(state === 'received' || state === 'sending') && (await settleDelivery(db, id, state, 'recalling'));
	if (!taken) error(409, 'Only what has been received, or is on its way, can be recalled.');
	await queue.add('deliver', { deliveryId: id }, { priority: 10 });
	packetChanged(packet.id);
	return json(await deliveryById(db, id));
};

/** Tries a delivery again now, instead of after its pause. */
export const POST: RequestHandler = async ({ params, locals }) => {
	const { db, queue } = await house();
	const { delivery } = await deliveryFor(db, locals, params.id!, params.delivery!);
	if (await isOpen(db, delivery.id)) {
		await queue.add('deliver', { deliveryId: delivery.id }, { priority: 10 });
	}
	return json(delivery);
};
