import { json, type RequestHandler } from '@sveltejs/kit';
import { troubleFor } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { tryAgain } from '$lib/server/work/jobs/troubles';

/** Tries a job again that had failed for good. */
export const POST: RequestHandler = async ({ params, locals }) => {
	const all = await services();
	const { trouble } = await troubleFor(all.db, locals, params.id!, params.trouble!);
	await tryAgain(all, trouble);
	return json({});
};
