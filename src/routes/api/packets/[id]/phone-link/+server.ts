import { json, type RequestHandler } from '@sveltejs/kit';
import { packetFor } from '$lib/server/access/access';
import { packetChanged, rightsChanged } from '$lib/server/events/packetEvents';
import { services } from '$lib/server/services/services';
import { phoneOrigin } from '$lib/server/phoneOrigin';
import { endPhoneLinks, makePhoneLink } from '$lib/server/store/phoneLinks';

/** Makes a link for a phone; the one before it ends. */
export const POST: RequestHandler = async ({ params, locals, url }) => {
	const { db } = await services();
	const { packet, me } = await packetFor(db, locals, params.id!);
	const { token, link } = await makePhoneLink(db, packet.id, me.id);
	rightsChanged();
	packetChanged(packet.id);
	const { origin, reach } = phoneOrigin(url);
	return json({ address: `${origin}/phone/${token}`, expiresAt: link.expiresAt, reach }, { status: 201 });
};

/** Ends the link. */
export const DELETE: RequestHandler = async ({ params, locals }) => {
	const { db } = await services();
	const { packet } = await packetFor(db, locals, params.id!);
	await endPhoneLinks(db, packet.id);
	rightsChanged();
	packetChanged(packet.id);
	return json({});
};
