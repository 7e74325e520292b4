import { readFile } from 'node:fs/promises';
import { error, type RequestHandler } from '@sveltejs/kit';
import { fileFor } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { filePagePath } from '$lib/server/vault/derived';

/** A page (from 1) of a made file as a picture, drawn from the very bytes that are sent. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const { db, vault, pool, derived } = await services();
	const { file } = await fileFor(db, locals, params.id!, params.file!);
	const index = /^\d{1,4}$/.test(params.page!) ? Number(params.page) - 1 : -1;
	if (file.state !== 'ready' || index < 0 || index >= file.pages!) error(404, 'There is no such page.');
	const out = filePagePath(derived, file.sha256!, index);
	let jpeg = await readFile(out).catch(() => null);
	if (!jpeg) {
		const path = vault.pathOf(file.sha256!);
		const drawn = await pool.run('filePage', { path, type: file.type, index, out });
		if (!drawn.ok) error(500, drawn.problem);
		jpeg = await readFile(out);
	}
	// A file never changes: its page is the same forever.
	return new Response(jpeg as BodyInit, {
		headers: { 'content-type': 'image/jpeg', 'cache-control': 'private, max-age=31536000, immutable' }
	});
};
