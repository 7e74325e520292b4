import { error, json, type RequestHandler } from '@sveltejs/kit';
import Joi from 'joi';
import { deliveryFor } from '$lib/server/access/access';
import { receiptOfArrived } from '$lib/server/delivery/mail';
import { ruleSheetOf } from '$lib/server/store/assignments';
import { packetChanged } from '$lib/server/events/packetEvents';
import { services } from '$lib/server/services/services';
import {
	deliveryById,
	isOpen,
	sendAgain,
	settleDelivery,
	type DeliveryRow
} from '$lib/server/store/deliveries';
import { PRIORITY } from '$lib/server/work/kinds';

const at = { priority: PRIORITY.waited };

/** Recalls a delivery that was received, or calls off one that is still on its way. */
export const DELETE: RequestHandler = async ({ params, locals }) => {
	const { db, queue } = await services();
	const { packet, delivery } = await deliveryFor(db, locals, params.id!, params.delivery!);
	const { id, state } = delivery;
	const taken =
		(state === 'received' || state === 'sending') && (await settleDelivery(db, id, state, 'recalling'));
	if (!taken) error(409, 'Only what has been received, or is on its way, can be recalled.');
	await queue.add(`deliver-${delivery.target}`, { deliveryId: id }, at);
	packetChanged(packet.id);
	return json(await deliveryById(db, id));
};

const body = Joi.object<{ what: 'now' | 'again' | 'arrived' }>({
	what: Joi.string().valid('now', 'again', 'arrived').default('now')
});

/**
 * `now`: tries a delivery again at once, instead of after its pause. Of one that nobody is sure of, a person says
 * whether it `arrived`, or that it is to be sent `again`.
 */
export const POST: RequestHandler = async ({ params, locals, request }) => {
	const { db, queue } = await services();
	const { packet, assignment, delivery } = await deliveryFor(db, locals, params.id!, params.delivery!);
	const { value, error: problem } = body.validate(await request.json().catch(() => null));
	if (problem) error(400, problem.message);
	const { what } = value as { what: 'now' | 'again' | 'arrived' };
	if (what === 'arrived') {
		const receipt = receiptOfArrived(delivery, ruleSheetOf(assignment, packet).due ?? null);
		if (!(await settleDelivery(db, delivery.id, 'unsure', 'sent', { receipt }))) notUnsure();
	}
	if (what === 'again' && !(await sendAgain(db, delivery.id))) notUnsure();
	if (await isOpen(db, delivery.id)) {
		await queue.add(`deliver-${delivery.target}`, { deliveryId: delivery.id }, at);
	}
	packetChanged(packet.id);
	return json((await deliveryById(db, delivery.id)) as DeliveryRow);
};

const notUnsure = () => error(409, 'What became of this delivery is known by now.');
