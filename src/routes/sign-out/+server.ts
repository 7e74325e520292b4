import { redirect, type RequestHandler } from '@sveltejs/kit';
import { endSession, SESSION_COOKIE } from '$lib/server/access/sessions';
import { rightsChanged } from '$lib/server/events/packetEvents';
import { services } from '$lib/server/services/services';

export const POST: RequestHandler = async ({ cookies }) => {
	const token = cookies.get(SESSION_COOKIE);
	if (token) {
		await endSession((await services()).db, token);
		rightsChanged();
	}
	cookies.delete(SESSION_COOKIE, { path: '/' });
	redirect(303, '/sign-in');
};
