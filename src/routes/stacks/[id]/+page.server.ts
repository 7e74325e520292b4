import { stackFor } from '$lib/server/access/access';
import { demoStack } from '$lib/server/demoPictures';
import { services } from '$lib/server/services/services';
import { studentsOf } from '$lib/server/store/courses';
import { packetView } from '$lib/server/view/packetView';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals }) => {
	const { db, pages, reads } = await services();
	const access = await stackFor(db, locals, params.id);
	void pages.ensure(params.id).catch(console.error);
	const people = await studentsOf(db, access.assignment.courseId);
	return {
		view: await packetView(db, access),
		reads,
		demoStack: await demoStack(),
		people: people.map(({ id, given, family }) => ({ id, given, family }))
	};
};
