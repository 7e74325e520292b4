import { error, json, type RequestHandler } from '@sveltejs/kit';
import { packetHeadFor } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { heardSchema, packetNews, type Heard } from '$lib/server/view/packetView';

/** What is new of a packet since `?version=…&news=…&sheet=…`. */
export const GET: RequestHandler = async ({ params, locals, url }) => {
	const { db } = await services();
	const head = await packetHeadFor(db, locals, params.id!);
	const { value, error: problem } = heardSchema.validate(Object.fromEntries(url.searchParams));
	if (problem) error(400, `It has to be said what was heard already: ${problem.message}`);
	return json(await packetNews(db, head, value as Heard));
};
