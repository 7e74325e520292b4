import { error } from '@sveltejs/kit';
import { signedIn } from '$lib/server/access/access';
import { house } from '$lib/server/house';
import { coursesTaught } from '$lib/server/store/courses';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const me = signedIn(locals);
	const courses = await coursesTaught((await house()).db, me.id);
	if (courses.length === 0) error(404, 'Only teachers write rule sheets.');
	return { courses };
};
