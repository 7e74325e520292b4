import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { error, type RequestHandler } from '@sveltejs/kit';
import { bundleFor } from '$lib/server/access/access';
import { asFile } from '$lib/server/edge/asFile';
import { services } from '$lib/server/services/services';
import { bundlePath } from '$lib/server/vault/derived';

/** One file of a bundle, by its number from 0. */
export const GET: RequestHandler = async ({ params, locals, url }) => {
	const { db, derived } = await services();
	const { bundle } = await bundleFor(db, locals, params.id!);
	const file = /^\d{1,3}$/.test(params.file!) ? bundle.files[Number(params.file)] : undefined;
	if (bundle.state !== 'ready' || !file) error(404, 'There is no such file. Make the bundle first.');
	const path = join(bundlePath(derived, bundle.id), file.name);
	if (!(await stat(path).catch(() => null)))
		error(410, 'This file is not kept any more. Make the bundle again.');
	const shown = url.searchParams.has('open') && file.name.endsWith('.pdf');
	return new Response(Readable.toWeb(createReadStream(path)) as ReadableStream, {
		headers: {
			'content-type': file.name.endsWith('.pdf') ? 'application/pdf' : 'application/zip',
			'content-length': String(file.bytes),
			'content-disposition': asFile(file.name, shown),
			'cache-control': 'private, no-cache'
		}
	});
};
