import { error, json, type RequestHandler } from '@sveltejs/kit';
import { bringerFor, PHONE_HEADER } from '$lib/server/access/access';
import { house } from '$lib/server/house';

/** One packet out of the tus header `Upload-Metadata: key base64, …`. */
function packetIn(header: string | null): string {
	for (const pair of (header ?? '').split(',')) {
		const [key, value] = pair.trim().split(' ');
		if (key === 'packet' && value) return Buffer.from(value, 'base64').toString('utf8');
	}
	return '';
}

const handle: RequestHandler = async ({ request, params, locals, getClientAddress }) => {
	const { db, uploads } = await house();
	if (request.method === 'OPTIONS') return uploads.handle(request);
	const id = params.path ?? '';
	const packetId = id ? await uploads.packetOf(id) : packetIn(request.headers.get('upload-metadata'));
	if (packetId === null) error(404, 'There is no such upload.');
	const token = request.headers.get(PHONE_HEADER);
	const bringer = await bringerFor(db, locals, packetId, token, getClientAddress());
	if (request.method === 'DELETE') return json({ message: 'Uploads are not deleted.' }, { status: 405 });
	if (request.method === 'HEAD') await uploads.settle(id);
	return uploads.handle(request, bringer);
};

export const POST = handle;
export const PATCH = handle;
export const HEAD = handle;
export const OPTIONS = handle;
export const DELETE = handle;
