import { redirect } from '@sveltejs/kit';
import { packetFor } from '$lib/server/access/access';
import { PICTURES_OF } from '$lib/server/demoPictures';
import { services } from '$lib/server/services/services';
import { packetView } from '$lib/server/view/packetView';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = async ({ params, locals }) => {
	const { db, pages, reads } = await services();
	const access = await packetFor(db, locals, params.id);
	if (access.packet.kind === 'stack') redirect(303, `/stacks/${params.id}`);
	void pages.ensure(params.id).catch(console.error);
	const { as, packet, me } = access;
	return {
		view: await packetView(db, access),
		reads,
		mayReturn: as === 'teacher' && packet.personId !== me.id,
		demo: process.env.MEMBRANA_DEMO_PICTURES === undefined ? null : { picturesOf: PICTURES_OF }
	};
};
