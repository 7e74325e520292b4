import { error, type RequestHandler } from '@sveltejs/kit';
import { demoPictures, readDemoPicture } from '$lib/server/demoPictures';

export const GET: RequestHandler = async ({ params }) => {
	if (!(await demoPictures()).includes(params.name!)) error(404, 'There is no such picture.');
	return new Response(await readDemoPicture(params.name!), { headers: { 'content-type': 'image/jpeg' } });
};
