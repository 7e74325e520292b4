import { error, type RequestHandler } from '@sveltejs/kit';
import { safeName } from '$lib/core/naming/namePattern';
import { assignmentToTeach } from '$lib/server/access/access';
import { asFile } from '$lib/server/edge/asFile';
import { services } from '$lib/server/services/services';
import { studentsOf } from '$lib/server/store/courses';

/** A cover sheet for everybody in the class, as a PDF. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const { db, pool } = await services();
	const { assignment } = await assignmentToTeach(db, locals, params.id!);
	const people = await studentsOf(db, assignment.courseId);
	if (people.length === 0) error(409, 'Nobody is in the course yet: bring in its list of people first.');
	const pdf = await pool.run('covers', {
		title: assignment.ruleSheet.title,
		course: assignment.courseCode,
		assignment: assignment.id,
		people
	});
	return new Response(pdf as BodyInit, {
		headers: {
			'content-type': 'application/pdf',
			'content-disposition': asFile(`${safeName(assignment.ruleSheet.title)} cover sheets.pdf`),
			'cache-control': 'private, no-store'
		}
	});
};
