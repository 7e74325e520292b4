import { assignmentToEdit } from '$lib/server/access/access';
import { house } from '$lib/server/house';
import { classRows } from '$lib/server/store/assignments';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals }) => {
	const { db } = await house();
	const { assignment } = await assignmentToEdit(db, locals, params.id);
	return {
		id: assignment.id,
		title: assignment.ruleSheet.title,
		courseCode: assignment.courseCode,
		students: await classRows(db, assignment.id)
	};
};
