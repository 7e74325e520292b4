import type { RequestHandler } from '@sveltejs/kit';
import { mayOpenPacket } from '$lib/server/access/access';
import { SESSION_COOKIE, whoHas } from '$lib/server/access/sessions';
import { eventStream } from '$lib/server/events/eventStream';
import { house } from '$lib/server/house';

export const GET: RequestHandler = async ({ params, locals, cookies }) => {
	const { db } = await house();
	const packetId = await mayOpenPacket(db, locals, params.id!);
	const token = cookies.get(SESSION_COOKIE) ?? '';
	return eventStream(packetId, 'computer', async () => {
		const person = await whoHas(db, token);
		return person !== null && (await mayOpenPacket(db, { person }, packetId)) === packetId;
	});
};
