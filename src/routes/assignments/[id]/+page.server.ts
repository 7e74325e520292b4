import { assignmentToEdit } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals }) => {
	const { assignment } = await assignmentToEdit((await services()).db, locals, params.id);
	return {
		id: assignment.id,
		version: assignment.version,
		ruleSheet: assignment.ruleSheet,
		courseCode: assignment.courseCode
	};
};
