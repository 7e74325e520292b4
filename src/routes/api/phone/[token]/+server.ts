import { json, type RequestHandler } from '@sveltejs/kit';
import { phoneLinkFor } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { phoneView } from '$lib/server/view/phoneView';

export const GET: RequestHandler = async ({ params, getClientAddress }) => {
	const { db } = await services();
	return json(await phoneView(db, await phoneLinkFor(db, params.token!, getClientAddress())));
};
