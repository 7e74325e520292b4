import { redirect, type RequestHandler } from '@sveltejs/kit';
import { assignmentToTeach } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { openStack } from '$lib/server/store/packets';

/** Opens the class's stack. */
export const POST: RequestHandler = async ({ params, locals }) => {
	const { db } = await services();
	const { assignment, me } = await assignmentToTeach(db, locals, params.id!);
	redirect(303, `/stacks/${await openStack(db, assignment.id, me.id)}`);
};
