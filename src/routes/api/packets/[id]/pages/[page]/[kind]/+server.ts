import { readFile } from 'node:fs/promises';
import { error, type RequestHandler } from '@sveltejs/kit';
import { usualTone } from '$lib/core/tone/usualTone';
import { packetFor } from '$lib/server/access/access';
import { house } from '$lib/server/house';
import { packetPages } from '$lib/server/packetView';
import { preparedPaths, previewPath } from '$lib/server/work/derived';

/** A page's picture: `thumb` or `view` of what it became, or the `source` it was made from. */
export const GET: RequestHandler = async ({ params, locals, url }) => {
	const { db, derived, ensurePrepared } = await house();
	const { packet, assignment } = await packetFor(db, locals, params.id!);
	const { pages } = await packetPages(db, packet, assignment.ruleSheet);
	const known = Object.hasOwn(pages, params.page!) ? pages[params.page!] : undefined;
	if (!known) error(404, 'There is no such page.');
	const path = pathFor();
	try {
		const bytes = await readFile(path);
		// The address holds the key of what is shown, so it never changes.
		const current = params.kind === 'source' || url.searchParams.get('key') === known.key;
		return new Response(bytes, {
			headers: {
				'content-type': path.endsWith('.png') ? 'image/png' : 'image/jpeg',
				'cache-control': current ? 'private, max-age=31536000, immutable' : 'no-store'
			}
		});
	} catch {
		// Pictures can be made again: forget that it was there, and ask for it.
		if (known.prepared) await db.query('delete from prepared where key = $1', [known.key]);
		await ensurePrepared(packet.id, params.page!);
		error(404, 'This picture is being made.');
	}

	function pathFor(): string {
		if (params.kind === 'source') {
			return previewPath(derived, known!.source.sha256, known!.page.sourcePage);
		}
		const paths = preparedPaths(derived, known!.key, known!.page.tone ?? usualTone(assignment.ruleSheet));
		if (params.kind === 'thumb') return paths.thumb;
		if (params.kind === 'view') return paths.view;
		return error(404, 'There is no such picture.');
	}
};
