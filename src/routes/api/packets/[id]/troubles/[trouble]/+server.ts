import { json, type RequestHandler } from '@sveltejs/kit';
import { troubleFor } from '$lib/server/access/access';
import { house } from '$lib/server/house';
import { tryAgain } from '$lib/server/work/jobs/troubles';

/** Tries a job again that had failed for good. */
export const POST: RequestHandler = async ({ params, locals }) => {
	const services = await house();
	const { trouble } = await troubleFor(services.db, locals, params.id!, params.trouble!);
	await tryAgain(services, trouble);
	return json({});
};
