import { redirect, type RequestHandler } from '@sveltejs/kit';
import { assignmentFor } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { studentsOf } from '$lib/server/store/courses';
import { openPacket } from '$lib/server/store/packets';
import { returnsOf } from '$lib/server/store/returns';

/** Opens a student's own packet for an assignment, or the packet a teacher asks for. */
export const POST: RequestHandler = async ({ params, locals, request }) => {
	const { db } = await services();
	const { assignment, me, role } = await assignmentFor(db, locals, params.id!);
	const asked = String((await request.formData()).get('student') ?? '');
	const student = role === 'teacher' ? await studentIn(assignment.courseId, asked) : me.id;
	const packet = await openPacket(db, assignment.id, student);
	// Whoever got it back comes to the first place that is to be mended.
	const returned = (await returnsOf(db, packet)).find((r) => r.stands);
	const page = returned?.reasons.find((r) => r.page)?.page;
	redirect(303, `/packets/${packet}/${page ? `square?page=${encodeURIComponent(page)}` : 'gather'}`);

	async function studentIn(courseId: string, id: string): Promise<string> {
		const found = (await studentsOf(db, courseId)).find((s) => s.id === id);
		return found?.id ?? redirect(303, `/assignments/${assignment.id}/class`);
	}
};
