import type { RequestHandler } from '@sveltejs/kit';
import { deliveryFor } from '$lib/server/access/access';
import { proofOf } from '$lib/server/delivery/proof';
import { asFile } from '$lib/server/edge/asFile';
import { services } from '$lib/server/services/services';

/** That a file was handed in here, and when, signed by this server; also of what was refused or never arrived. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const { db, signer } = await services();
	const { delivery, assignment } = await deliveryFor(db, locals, params.id!, params.delivery!);
	return new Response(`${JSON.stringify(proofOf(delivery, assignment, signer), null, '\t')}\n`, {
		headers: {
			'content-type': 'application/json',
			'content-disposition': asFile(`Proof ${delivery.fileName}.json`)
		}
	});
};
