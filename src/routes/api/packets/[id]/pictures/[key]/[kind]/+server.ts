import { readFile } from 'node:fs/promises';
import { error, type RequestHandler } from '@sveltejs/kit';
import { packetFor, picturesFor } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { forgetPrepared } from '$lib/server/store/prepared';
import { pageRecords, type StoredPictures } from '$lib/server/store/pageRecords';
import { preparedPaths, previewPath } from '$lib/server/vault/derived';

/** A page's picture by its key: `thumb`, `view` or `flat` of what it became, or the `source` it was made from. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const { db, derived, pool, vault, pages: asker } = await services();
	const found = await picturesFor(db, locals, params.id!, params.key!);
	const path = pathFor(derived, params.kind!, found);
	try {
		return picture(await readFile(path).catch(makeFlat), params.kind!, found);
	} catch {
		// Pictures can be made again: forget that it was there, and ask for it.
		if (params.kind !== 'flat') await forgetPrepared(db, found.key);
		await asker.ensure(params.id!, found.pageId);
		error(404, 'This picture is being made.');
	}

	/** Made when it is asked for: few pages are looked at that closely. */
	async function makeFlat(reason: unknown): Promise<Buffer> {
		if (params.kind !== 'flat') throw reason;
		const { packet, assignment } = await packetFor(db, locals, params.id!);
		const known = (await pageRecords(db, packet, assignment, { ids: [found.pageId] }))[found.pageId];
		if (!known?.picture || !known.source.type) throw reason;
		await pool.run('flat', {
			path: vault.pathOf(known.source.sha256),
			type: known.source.type,
			page: known.page,
			facts: known.picture,
			expectedPaper: assignment.ruleSheet.pages?.size,
			out: path
		});
		return readFile(path);
	}
};

function pathFor(derived: string, kind: string, { key, tone, sha256, sourcePage }: StoredPictures): string {
	if (kind === 'source') return previewPath(derived, sha256, sourcePage);
	const paths = preparedPaths(derived, key, tone);
	if (kind === 'thumb') return paths.thumb;
	if (kind === 'view') return paths.view;
	if (kind === 'flat') return paths.flat;
	return error(404, 'There is no such picture.');
}

/** The address holds the key of what is shown, so what it leads to never changes. */
function picture(bytes: Buffer, kind: string, { tone }: StoredPictures): Response {
	const isPng = kind === 'view' && tone === 'black-and-white';
	return new Response(new Uint8Array(bytes), {
		headers: {
			'content-type': isPng ? 'image/png' : 'image/jpeg',
			'cache-control': 'private, max-age=31536000, immutable'
		}
	});
}
