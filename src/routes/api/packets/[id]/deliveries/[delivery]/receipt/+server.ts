import { error, type RequestHandler } from '@sveltejs/kit';
import { deliveryFor } from '$lib/server/access/access';
import { receiptText } from '$lib/server/delivery/receiptText';
import { asFile } from '$lib/server/edge/asFile';
import { services } from '$lib/server/services/services';

/** The receipt of a delivery as a PDF. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const { db, pool } = await services();
	const access = await deliveryFor(db, locals, params.id!, params.delivery!);
	if (!access.delivery.receipt) error(409, 'There is no receipt yet: nothing has confirmed it.');
	const pdf = await pool.run('receipt', receiptText(access));
	return new Response(pdf as BodyInit, {
		headers: {
			'content-type': 'application/pdf',
			'content-disposition': asFile(`Receipt ${access.delivery.fileName}.pdf`),
			'cache-control': 'private, no-cache'
		}
	});
};
