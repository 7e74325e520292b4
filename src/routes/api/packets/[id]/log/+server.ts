import { json, type RequestHandler } from '@sveltejs/kit';
import { packetFor } from '$lib/server/access/access';
import { house } from '$lib/server/house';
import { logOf } from '$lib/server/store/packets';

export const GET: RequestHandler = async ({ params, locals }) => {
	const { db } = await house();
	const { packet } = await packetFor(db, locals, params.id!);
	return json(await logOf(db, packet.id));
};
