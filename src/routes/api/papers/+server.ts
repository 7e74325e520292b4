import { json, type RequestHandler } from '@sveltejs/kit';
import { rulesWriter } from '$lib/server/access/access';
import { keepPaper } from '$lib/server/papers/papers';
import { orSay } from '$lib/server/edge/said';
import { services } from '$lib/server/services/services';

/** Takes a question paper or instructions, to be read page by page: the file's bytes. */
export const POST: RequestHandler = async ({ request, locals }) => {
	const me = rulesWriter(locals);
	return json(await orSay(keepPaper(await services(), me.id, request)), { status: 201 });
};
