import { assignmentToEdit } from '$lib/server/access/access';
import { isOwn } from '$lib/server/access/own';
import { courseById } from '$lib/server/store/courses';
import { services } from '$lib/server/services/services';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals }) => {
	const { db } = await services();
	const { assignment } = await assignmentToEdit(db, locals, params.id);
	const course = isOwn() ? null : await courseById(db, assignment.courseId);
	return {
		courseId: assignment.courseId,
		timeZone: course?.timeZone ?? null,
		id: assignment.id,
		version: assignment.version,
		ruleSheet: assignment.ruleSheet,
		courseCode: assignment.courseCode
	};
};
