import { readFile } from 'node:fs/promises';
import { error, type RequestHandler } from '@sveltejs/kit';
import { usualTone } from '$lib/core/tone/usualTone';
import { mayOpenPacket, packetFor } from '$lib/server/access/access';
import { house } from '$lib/server/house';
import { packetPages } from '$lib/server/packetView';
import { preparedPaths, previewPath } from '$lib/server/work/derived';
import { picturesOfPage, type PagePictures } from '$lib/server/work/pictureIndex';

/** A page's picture: `thumb`, `view` or `flat` of what it became, or the `source` it was made from. */
export const GET: RequestHandler = async ({ params, locals, url }) => {
	const { db, derived, pool, vault, pages: asker } = await house();
	const key = url.searchParams.get('key');
	const quick = picturesOfPage(await mayOpenPacket(db, locals, params.id!), params.page!);
	// Asked for by the key of what is shown, and there: nothing else has to be known of the packet.
	if (quick && (params.kind === 'source' || quick.key === key)) {
		const bytes = await readFile(pathFor(derived, params.kind!, quick)).catch(() => null);
		if (bytes) return picture(bytes, params.kind!, quick, true);
	}
	const { packet, assignment } = await packetFor(db, locals, params.id!);
	const { pages } = await packetPages(db, packet, assignment.ruleSheet, params.page!);
	const known = Object.hasOwn(pages, params.page!) ? pages[params.page!] : undefined;
	if (!known) error(404, 'There is no such page.');
	const { page, source } = known;
	const of: PagePictures = {
		key: known.key,
		tone: page.tone ?? usualTone(assignment.ruleSheet),
		sha256: source.sha256,
		sourcePage: page.sourcePage
	};
	const path = pathFor(derived, params.kind!, of);
	try {
		const bytes = await readFile(path).catch((reason: unknown) => makeFlat() ?? Promise.reject(reason));
		return picture(bytes, params.kind!, of, params.kind === 'source' || key === known.key);
	} catch {
		// Pictures can be made again: forget that it was there, and ask for it.
		if (known.prepared) await db.query('delete from prepared where key = $1', [known.key]);
		await asker.ensure(packet.id, params.page!);
		error(404, 'This picture is being made.');
	}

	/** Made when it is asked for: few pages are looked at that closely. */
	function makeFlat(): Promise<Buffer> | null {
		if (params.kind !== 'flat' || !known!.picture || !source.type) return null;
		return pool
			.run('flat', {
				path: vault.pathOf(source.sha256),
				type: source.type,
				page,
				facts: known!.picture,
				expectedPaper: assignment.ruleSheet.pages?.size,
				out: path
			})
			.then(() => readFile(path));
	}
};

function pathFor(derived: string, kind: string, { key, tone, sha256, sourcePage }: PagePictures): string {
	if (kind === 'source') return previewPath(derived, sha256, sourcePage);
	const paths = preparedPaths(derived, key, tone);
	if (kind === 'thumb') return paths.thumb;
	if (kind === 'view') return paths.view;
	if (kind === 'flat') return paths.flat;
	return error(404, 'There is no such picture.');
}

/** @param forever the address holds the key of what is shown, so it never changes */
function picture(bytes: Buffer, kind: string, { tone }: PagePictures, forever: boolean): Response {
	const isPng = kind === 'view' && tone.name === 'black-and-white';
	return new Response(new Uint8Array(bytes), {
		headers: {
			'content-type': isPng ? 'image/png' : 'image/jpeg',
			'cache-control': forever ? 'private, max-age=31536000, immutable' : 'no-store'
		}
	});
}
