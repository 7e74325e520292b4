import type { RequestHandler } from '@sveltejs/kit';
import { packetFor } from '$lib/server/access/access';
import { eventStream } from '$lib/server/events/eventStream';
import { house } from '$lib/server/house';

export const GET: RequestHandler = async ({ params, locals }) => {
	const { db } = await house();
	const { packet } = await packetFor(db, locals, params.id!);
	return eventStream(packet.id, 'computer');
};
