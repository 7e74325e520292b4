import { error, json, type RequestHandler } from '@sveltejs/kit';
import { rulesWriter } from '$lib/server/access/access';
import { paperText } from '$lib/server/papers/papers';
import { orSay } from '$lib/server/edge/said';
import { services } from '$lib/server/services/services';

/** The text of a page, from 1, of a paper that the one who asks brought. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const me = rulesWriter(locals);
	if (!/^[0-9a-f]{64}$/.test(params.id!) || !/^\d{1,3}$/.test(params.page!))
		error(404, 'There is no such page.');
	return json({ text: await orSay(paperText(await services(), me.id, params.id!, Number(params.page) - 1)) });
};
