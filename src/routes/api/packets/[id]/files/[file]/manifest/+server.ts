import { error, type RequestHandler } from '@sveltejs/kit';
import { csvFormat } from 'd3-dsv';
import { manifestRows } from '$lib/core/packet/manifest';
import { asCells } from '$lib/core/text/csvCells';
import { fileFor } from '$lib/server/access/access';
import { asFile } from '$lib/server/edge/asFile';
import { fileManifest } from '$lib/server/view/fileManifest';
import { services } from '$lib/server/services/services';

/** Which page of a made file answers which question, as JSON or, with `?as=csv`, as a table. */
export const GET: RequestHandler = async ({ params, locals, url }) => {
	const { db } = await services();
	const access = await fileFor(db, locals, params.id!, params.file!);
	const { file, packet } = access;
	if (file.state !== 'ready') error(409, file.problem ?? 'The file is still being made.');
	if (file.packetVersion !== packet.version) {
		error(409, 'The packet was changed after this file was made. Make it again.');
	}
	const manifest = await fileManifest(db, access, file);
	const isCsv = url.searchParams.get('as') === 'csv';
	const text = isCsv
		? `${csvFormat(manifestRows(manifest).map(asCells))}\n`
		: `${JSON.stringify(manifest, null, '\t')}\n`;
	const extension = isCsv ? 'csv' : 'json';
	return new Response(text, {
		headers: {
			'content-type': isCsv ? 'text/csv; charset=utf-8' : 'application/json',
			'content-disposition': asFile(`${file.name}.${extension}`),
			'cache-control': 'private, no-cache'
		}
	});
};
