import { error, redirect, type Handle, type HandleServerError, type ServerInit } from '@sveltejs/kit';
import { SESSION_COOKIE, whoHas } from '$lib/server/access/sessions';
import { closeHouse, house } from '$lib/server/house';
import { phoneOrigin } from '$lib/server/phoneOrigin';
import { FolderInUseError } from '$lib/server/store/lockFolder';

export const init: ServerInit = async () => {
	try {
		await house();
	} catch (reason) {
		if (reason instanceof FolderInUseError) {
			console.error(reason.message);
			process.exit(1);
		}
		throw reason;
	}
	// adapter-node says so when no request is open any more.
	process.on('sveltekit:shutdown', () => void closeHouse());
};

const SAFE = new Set(['GET', 'HEAD', 'OPTIONS']);
/** Pages that ask no sign-in; a phone link carries its own right. */
const isOpen = (path: string) =>
	path === '/sign-in' || path.startsWith('/phone/') || path.startsWith('/api/');

export const handle: Handle = async ({ event, resolve }) => {
	// A page of another site must not act in this one's name, whatever the content type.
	const origin = event.request.headers.get('origin');
	const isOwn = origin === null || origin === event.url.origin || origin === phoneOrigin(event.url).origin;
	if (!SAFE.has(event.request.method) && !isOwn) {
		error(403, 'This request came from another site.');
	}
	const token = event.cookies.get(SESSION_COOKIE);
	event.locals.person = token ? await whoHas((await house()).db, token) : null;
	const { pathname } = event.url;
	if (!event.locals.person && !isOpen(pathname)) {
		redirect(303, `/sign-in?next=${encodeURIComponent(pathname)}`);
	}
	const response = await resolve(event);
	response.headers.set('x-content-type-options', 'nosniff');
	response.headers.set('referrer-policy', 'same-origin');
	return response;
};

export const handleError: HandleServerError = ({ error: reason, status, message }) => {
	if (status === 404) return { message: 'There is nothing here.' };
	console.error(reason);
	return {
		message: status >= 500 ? 'Something went wrong here. Nothing you brought in is lost; try again.' : message
	};
};
