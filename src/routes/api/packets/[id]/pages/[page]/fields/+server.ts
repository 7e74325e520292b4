import { error, json, type RequestHandler } from '@sveltejs/kit';
import { packetFor } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { sourceById } from '$lib/server/store/sources';

/** The fields to fill in on a page that came as PDF; none on any other. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const { db, vault, pool } = await services();
	const { packet } = await packetFor(db, locals, params.id!);
	const page = Object.hasOwn(packet.state.pages, params.page!) ? packet.state.pages[params.page!] : undefined;
	const source = page && (await sourceById(db, page.source));
	if (!page || !source) error(404, 'There is no such page.');
	if (source.type !== 'pdf') return json({ fields: [] });
	const read = await pool.run('formFields', { path: vault.pathOf(source.sha256), index: page.sourcePage });
	if (!read.ok) error(422, read.problem);
	return json({ fields: read.fields });
};
