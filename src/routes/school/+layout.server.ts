import { administrator } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { schoolOf } from '$lib/server/store/school';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = async ({ locals }) => {
	administrator(locals);
	return { school: (await schoolOf((await services()).db))?.name ?? '' };
};
