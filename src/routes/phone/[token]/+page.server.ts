import { phoneLinkFor } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { phoneView } from '$lib/server/view/phoneView';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, getClientAddress, setHeaders }) => {
	const { db } = await services();
	const link = await phoneLinkFor(db, params.token, getClientAddress());
	setHeaders({ 'cache-control': 'no-store' });
	return {
		view: await phoneView(db, link),
		token: params.token,
		demo: process.env.MEMBRANA_DEMO_PICTURES !== undefined
	};
};
