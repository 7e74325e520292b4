import { json, type RequestHandler } from '@sveltejs/kit';
import { packetFor } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { logOf } from '$lib/server/store/packets';

export const GET: RequestHandler = async ({ params, locals }) => {
	const { db } = await services();
	const { packet } = await packetFor(db, locals, params.id!);
	return json(await logOf(db, packet.id));
};
