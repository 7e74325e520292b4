import { error } from '@sveltejs/kit';
import { deliveryFor } from '$lib/server/access/access';
import { receiptText } from '$lib/server/delivery/receiptText';
import { services } from '$lib/server/services/services';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals }) => {
	const { db } = await services();
	const access = await deliveryFor(db, locals, params.id, params.delivery);
	if (!access.delivery.receipt) error(409, 'There is no receipt yet: nothing has confirmed it.');
	return { receipt: receiptText(access), packet: access.packet.id, delivery: access.delivery.id };
};
