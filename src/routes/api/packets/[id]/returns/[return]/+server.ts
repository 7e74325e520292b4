import { error, json, type RequestHandler } from '@sveltejs/kit';
import { returnFor } from '$lib/server/access/access';
import { packetChanged } from '$lib/server/events/packetEvents';
import { services } from '$lib/server/services/services';
import { takeReturnBack } from '$lib/server/store/returns';

/** Takes a return back that its student has not answered yet. */
export const DELETE: RequestHandler = async ({ params, locals }) => {
	const { db } = await services();
	const { packet, returnId } = await returnFor(db, locals, params.id!, params.return!);
	if (!(await takeReturnBack(db, packet.id, returnId))) {
		error(409, 'It was answered or taken back in the meantime.');
	}
	packetChanged(packet.id);
	return json({});
};
