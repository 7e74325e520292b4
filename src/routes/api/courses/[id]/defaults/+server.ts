import { error, json, type RequestHandler } from '@sveltejs/kit';
import { lastingRules } from '$lib/core/rules/ruleSheet';
import { assignmentToTeach, courseToRun } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { setDefaults } from '$lib/server/store/courses';

/** New rule sheets of a course begin with the rules of one of its assignments: `{assignment}`. */
export const PUT: RequestHandler = async ({ params, locals, request }) => {
	const { db } = await services();
	const { course } = await courseToRun(db, locals, params.id!);
	const body = (await request.json().catch(() => error(400, 'This is not JSON.'))) as Record<string, unknown>;
	const { assignment } = await assignmentToTeach(db, locals, String(body?.assignment ?? ''));
	if (assignment.courseId !== course.id) error(404, 'There is nothing here, or it is not yours to see.');
	await setDefaults(db, course.id, lastingRules(assignment.ruleSheet));
	return json({});
};
