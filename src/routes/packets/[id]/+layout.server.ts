import { packetFor } from '$lib/server/access/access';
import { house } from '$lib/server/house';
import { packetView } from '$lib/server/packetView';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = async ({ params, locals }) => {
	const { db, pages } = await house();
	const access = await packetFor(db, locals, params.id);
	void pages.ensure(params.id).catch(console.error);
	return { view: await packetView(db, access), demo: process.env.MEMBRANA_DEMO_PICTURES !== undefined };
};
