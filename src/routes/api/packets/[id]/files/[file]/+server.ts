import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import { error, json, type RequestHandler } from '@sveltejs/kit';
import { packetFor } from '$lib/server/access/access';
import { house } from '$lib/server/house';
import { fileById } from '$lib/server/store/deliveries';

/** A made file; with `?state` only how far it is. */
export const GET: RequestHandler = async ({ params, locals, url }) => {
	const { db, vault } = await house();
	const { packet } = await packetFor(db, locals, params.id!);
	const file = /^[0-9a-f-]{36}$/.test(params.file!) ? await fileById(db, params.file!) : null;
	if (!file || file.packetId !== packet.id) error(404, 'There is no such file.');
	if (url.searchParams.has('state')) return json(file);
	if (file.state !== 'ready') error(409, file.problem ?? 'The file is still being made.');
	const disposition = url.searchParams.has('open') ? 'inline' : 'attachment';
	return new Response(Readable.toWeb(createReadStream(vault.pathOf(file.sha256!))) as ReadableStream, {
		headers: {
			'content-type': file.type === 'pdf' ? 'application/pdf' : 'application/zip',
			'content-length': String(file.bytes),
			// RFC 6266 with the UTF-8 form of RFC 8187.
			'content-disposition': `${disposition}; filename*=UTF-8''${encodeURIComponent(`${file.name}.${file.type}`)}`,
			'cache-control': 'private, no-cache'
		}
	});
};
