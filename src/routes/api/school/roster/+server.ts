import { error, json, type RequestHandler } from '@sveltejs/kit';
import { administrator } from '$lib/server/access/access';
import { asFile } from '$lib/server/edge/asFile';
import { orSay } from '$lib/server/edge/said';
import { previewRoster, receiveRoster, takeRoster } from '$lib/server/roster/bringRoster';
import { rosterZip } from '$lib/server/roster/exportRoster';
import { services } from '$lib/server/services/services';

/** The whole school's roster: what it would change, or, with `seen` of such an answer, the change itself. */
export const POST: RequestHandler = async ({ request, locals, url }) => {
	const me = administrator(locals);
	const all = await services();
	const brought = await orSay(receiveRoster(all, request, null, null));
	const seen = url.searchParams.get('seen');
	if (seen === null) return json(await previewRoster(all, brought));
	await orSay(takeRoster(all, brought, seen, me));
	return json({ taken: true });
};

/** The school's roster as a OneRoster ZIP. */
export const GET: RequestHandler = async ({ locals }) => {
	administrator(locals);
	const zip = await rosterZip((await services()).db);
	if (zip.length === 0) error(404, 'There is nothing here.');
	return new Response(zip as BodyInit, {
		headers: { 'content-type': 'application/zip', 'content-disposition': asFile('roster.zip') }
	});
};
