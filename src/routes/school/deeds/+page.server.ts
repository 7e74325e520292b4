import { administrator } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { latestDeeds } from '$lib/server/store/deeds';
import type { PageServerLoad } from './$types';

const MOST = 500;

export const load: PageServerLoad = async ({ locals }) => {
	administrator(locals);
	return { deeds: await latestDeeds((await services()).db, MOST) };
};
