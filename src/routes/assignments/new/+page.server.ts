import { error } from '@sveltejs/kit';
import { signedIn } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { coursesTaught } from '$lib/server/store/courses';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const me = signedIn(locals);
	const courses = await coursesTaught((await services()).db, me.id);
	if (courses.length === 0) error(404, 'Only teachers write rule sheets.');
	return { courses };
};
