import type { RequestHandler } from '@sveltejs/kit';
import { assignmentToTeach } from '$lib/server/access/access';
import { whoAsks } from '$lib/server/access/own';
import { SESSION_COOKIE } from '$lib/server/access/sessions';
import { classStream } from '$lib/server/events/eventStream';
import { services } from '$lib/server/services/services';
import { packetHead } from '$lib/server/store/packets';

/** Tells a teacher that something of the class's packets is new. */
export const GET: RequestHandler = async ({ params, locals, cookies }) => {
	const { db } = await services();
	const { assignment, me } = await assignmentToTeach(db, locals, params.id!);
	const token = cookies.get(SESSION_COOKIE);
	const belongs = async (packetId: string) =>
		(await packetHead(db, packetId, me.id))?.assignmentId === assignment.id;
	return classStream(belongs, async () => {
		const person = await whoAsks(db, token);
		return person !== null && (await assignmentToTeach(db, { person }, assignment.id)).me.id === me.id;
	});
};
