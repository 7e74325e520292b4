import type { RequestHandler } from '@sveltejs/kit';
import { phoneLinkFor } from '$lib/server/access/access';
import { eventStream } from '$lib/server/events/eventStream';
import { services } from '$lib/server/services/services';
import { phoneLinkByToken } from '$lib/server/store/phoneLinks';

/** Says only that something changed, never what: the phone then asks for its own small view. */
export const GET: RequestHandler = async ({ params, getClientAddress }) => {
	const { db } = await services();
	const link = await phoneLinkFor(db, params.token!, getClientAddress());
	return eventStream(
		link.packetId,
		'phone',
		async () => (await phoneLinkByToken(db, params.token!))?.id === link.id
	);
};
