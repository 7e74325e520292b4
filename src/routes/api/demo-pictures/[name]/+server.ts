import { error, type RequestHandler } from '@sveltejs/kit';
import { demoPictures, demoStack, readDemoPicture } from '$lib/server/demoPictures';

export const GET: RequestHandler = async ({ params }) => {
	const name = params.name!;
	const stack = await demoStack();
	const isStack = stack?.isThere === true && name === stack.name;
	if (!isStack && !(await demoPictures()).includes(name)) error(404, 'There is no such picture.');
	const type = isStack ? 'application/pdf' : 'image/jpeg';
	return new Response(await readDemoPicture(name), { headers: { 'content-type': type } });
};
