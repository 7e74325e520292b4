import { json, type RequestHandler } from '@sveltejs/kit';
import { PHONE_HEADER, uploadGrant } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';

const handle: RequestHandler = async ({ request, params, url, locals, getClientAddress }) => {
	const { db, uploads } = await services();
	if (request.method === 'OPTIONS') return uploads.options(request);
	const grant = await uploadGrant(db, locals, uploads, {
		method: request.method,
		path: params.path ?? '',
		search: url.search,
		headers: request.headers,
		phoneToken: request.headers.get(PHONE_HEADER),
		from: getClientAddress()
	});
	if (request.method === 'DELETE') return json({ message: 'Uploads are not deleted.' }, { status: 405 });
	return uploads.handle(request, grant);
};

export const POST = handle;
export const PATCH = handle;
export const HEAD = handle;
export const OPTIONS = handle;
export const DELETE = handle;
