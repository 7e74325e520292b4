import type { RequestHandler } from '@sveltejs/kit';
import { packetHeadFor } from '$lib/server/access/access';
import { whoAsks } from '$lib/server/access/own';
import { SESSION_COOKIE } from '$lib/server/access/sessions';
import { eventStream } from '$lib/server/events/eventStream';
import { services } from '$lib/server/services/services';

export const GET: RequestHandler = async ({ params, locals, cookies }) => {
	const { db } = await services();
	const { id } = await packetHeadFor(db, locals, params.id!);
	const token = cookies.get(SESSION_COOKIE);
	return eventStream(id, 'computer', async () => {
		const person = await whoAsks(db, token);
		return person !== null && (await packetHeadFor(db, { person }, id)).id === id;
	});
};
