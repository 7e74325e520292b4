import { json, type RequestHandler } from '@sveltejs/kit';
import { packetFor } from '$lib/server/access/access';
import { house } from '$lib/server/house';
import { packetView } from '$lib/server/packetView';

export const GET: RequestHandler = async ({ params, locals }) => {
	const { db } = await house();
	const access = await packetFor(db, locals, params.id!);
	return json(await packetView(db, access));
};
