import { error, json, type RequestHandler } from '@sveltejs/kit';
import { earlierPictures } from '$lib/core/packet/earlierPictures';
import { packetFor } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { logOf } from '$lib/server/store/packets';
import { sourcesOf } from '$lib/server/store/sources';

/** The pictures that a page was made from before, latest first, with the names of their files. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const { db } = await services();
	const { packet } = await packetFor(db, locals, params.id!);
	const page = Object.hasOwn(packet.state.pages, params.page!) ? packet.state.pages[params.page!] : undefined;
	if (!page) error(404, 'There is no such page.');
	const [log, sources] = await Promise.all([logOf(db, packet.id, ALL), sourcesOf(db, packet.id)]);
	const names = new Map(sources.map((s) => [s.id, s.name]));
	const changes = log.map((line) => line.change).reverse();
	return json(
		earlierPictures(changes, page).map((picture) => ({ ...picture, name: names.get(picture.source) ?? '' }))
	);
};

const ALL = 100_000;
