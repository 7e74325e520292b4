import { redirect, type RequestHandler } from '@sveltejs/kit';
import { assignmentFor } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { studentsOf } from '$lib/server/store/courses';
import { openPacket } from '$lib/server/store/packets';

/** Opens a student's own packet for an assignment, or the packet a teacher asks for. */
export const POST: RequestHandler = async ({ params, locals, request }) => {
	const { db } = await services();
	const { assignment, me, role } = await assignmentFor(db, locals, params.id!);
	const asked = String((await request.formData()).get('student') ?? '');
	const student = role === 'teacher' ? await studentIn(assignment.courseId, asked) : me.id;
	redirect(303, `/packets/${await openPacket(db, assignment.id, student)}/gather`);

	async function studentIn(courseId: string, id: string): Promise<string> {
		const found = (await studentsOf(db, courseId)).find((s) => s.id === id);
		return found?.id ?? redirect(303, `/assignments/${assignment.id}/class`);
	}
};
