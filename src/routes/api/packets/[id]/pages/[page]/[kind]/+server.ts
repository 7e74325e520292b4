import { readFile } from 'node:fs/promises';
import { error, type RequestHandler } from '@sveltejs/kit';
import { usualTone } from '$lib/core/tone/usualTone';
import { packetFor } from '$lib/server/access/access';
import { house } from '$lib/server/house';
import { packetPages } from '$lib/server/packetView';
import { preparedPaths, previewPath } from '$lib/server/work/derived';

/** A page's picture: `thumb`, `view` or `flat` of what it became, or the `source` it was made from. */
export const GET: RequestHandler = async ({ params, locals, url }) => {
	const { db, derived, pool, vault, ensurePrepared } = await house();
	const { packet, assignment } = await packetFor(db, locals, params.id!);
	const { pages } = await packetPages(db, packet, assignment.ruleSheet);
	const known = Object.hasOwn(pages, params.page!) ? pages[params.page!] : undefined;
	if (!known) error(404, 'There is no such page.');
	const path = pathFor();
	try {
		const bytes = await readFile(path).catch((reason: unknown) => makeFlat() ?? Promise.reject(reason));
		// The address holds the key of what is shown, so it never changes.
		const current = params.kind === 'source' || url.searchParams.get('key') === known.key;
		return new Response(new Uint8Array(bytes as Buffer), {
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

	/** Made when it is asked for: few pages are looked at that closely. */
	function makeFlat(): ReturnType<typeof readFile> | null {
		const { picture, source, page } = known!;
		if (params.kind !== 'flat' || !picture || !source.type) return null;
		return pool
			.run('flat', {
				path: vault.pathOf(source.sha256),
				type: source.type,
				page,
				facts: picture,
				expectedPaper: assignment.ruleSheet.pages?.size,
				out: path
			})
			.then(() => readFile(path));
	}

	function pathFor(): string {
		if (params.kind === 'source') {
			return previewPath(derived, known!.source.sha256, known!.page.sourcePage);
		}
		const paths = preparedPaths(derived, known!.key, known!.page.tone ?? usualTone(assignment.ruleSheet));
		if (params.kind === 'thumb') return paths.thumb;
		if (params.kind === 'view') return paths.view;
		if (params.kind === 'flat') return paths.flat;
		return error(404, 'There is no such picture.');
	}
};
