import { json, type RequestHandler } from '@sveltejs/kit';
import { phoneLinkFor } from '$lib/server/access/access';
import { house } from '$lib/server/house';
import { phoneView } from '$lib/server/phoneView';

export const GET: RequestHandler = async ({ params, getClientAddress }) => {
	const { db } = await house();
	return json(await phoneView(db, await phoneLinkFor(db, params.token!, getClientAddress())));
};
