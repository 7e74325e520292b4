import { json, type RequestHandler } from '@sveltejs/kit';
import { packetFor } from '$lib/server/access/access';
import { demoAccounts } from '$lib/server/demoAccounts';
import { destinationsOf } from '$lib/server/delivery/destinations';
import { services } from '$lib/server/services/services';

/** Where this packet can be handed in. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const { db, targets } = await services();
	const access = await packetFor(db, locals, params.id!);
	const standIn = demoAccounts().length > 0 ? (targets.portal?.address ?? null) : null;
	return json({ ...(await destinationsOf(db, targets, access)), standIn });
};
