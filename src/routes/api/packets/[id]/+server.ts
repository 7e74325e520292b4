import { json, type RequestHandler } from '@sveltejs/kit';
import { packetFor } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { packetView } from '$lib/server/view/packetView';

export const GET: RequestHandler = async ({ params, locals }) => {
	const { db } = await services();
	const access = await packetFor(db, locals, params.id!);
	return json(await packetView(db, access));
};
