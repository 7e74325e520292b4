import { json, type RequestHandler } from '@sveltejs/kit';
import { packetFor } from '$lib/server/access/access';
import { destinationsOf } from '$lib/server/delivery/destinations';
import { house } from '$lib/server/house';

/** Where this packet can be handed in. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const { db, targets } = await house();
	const access = await packetFor(db, locals, params.id!);
	return json(await destinationsOf(db, targets, access));
};
