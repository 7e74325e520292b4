import { json, type RequestHandler } from '@sveltejs/kit';
import { signedIn } from '$lib/server/access/access';
import { demoPictures } from '$lib/server/demoPictures';

export const GET: RequestHandler = async ({ locals }) => {
	signedIn(locals);
	return json(await demoPictures());
};
