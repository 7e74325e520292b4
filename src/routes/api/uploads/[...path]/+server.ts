import { json, type RequestHandler } from '@sveltejs/kit';
import { PHONE_HEADER, uploadGrant } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { keptUpload } from '$lib/server/vault/uploads';

const handle: RequestHandler = async ({ request, params, url, locals, getClientAddress }) => {
	const { db, uploads } = await services();
	if (request.method === 'OPTIONS') return uploads.options(request);
	const { grant, upload } = await uploadGrant(db, locals, uploads, {
		method: request.method,
		path: params.path ?? '',
		search: url.search,
		headers: request.headers,
		phoneToken: request.headers.get(PHONE_HEADER),
		from: getClientAddress()
	});
	if (request.method === 'DELETE') return json({ message: 'Uploads are not deleted.' }, { status: 405 });
	if (request.method === 'HEAD' && upload) {
		await uploads.settle(upload.id);
		const now = await uploads.find(upload.id);
		if (now?.kept != null) return keptUpload(now.kept);
	}
	if (upload?.kept != null) {
		return json({ message: 'This upload is complete already.' }, { status: 409 });
	}
	return uploads.handle(request, grant);
};

export const POST = handle;
export const PATCH = handle;
export const HEAD = handle;
export const OPTIONS = handle;
export const DELETE = handle;
