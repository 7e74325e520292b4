import { json, type Handle, type HandleServerError, type ServerInit } from '@sveltejs/kit';
import { firstStartPath } from '$lib/server/access/firstStart';
import { isOwn, OtherKindError, settleKind, whoAsks } from '$lib/server/access/own';
import { SESSION_COOKIE } from '$lib/server/access/sessions';
import { admit, NotAdmittedError } from '$lib/server/edge/admit';
import { closeServices, services } from '$lib/server/services/services';
import { phoneOrigin } from '$lib/server/phoneOrigin';
import { DatabaseAwayError } from '$lib/server/store/databaseError';
import { FolderInUseError } from '$lib/server/store/lockFolder';
import { schoolOf } from '$lib/server/store/school';
import { isLoopbackName } from '$lib/server/loopback';

export const init: ServerInit = async () => {
	try {
		const { db } = await services();
		await settleKind(db, isOwn());
		const path = await firstStartPath(db);
		if (path) {
			console.error(
				`There is no administrator yet. Whoever opens this address within the hour becomes the first one:\n\n  ${process.env.MEMBRANA_ADDRESS ?? ''}${path}\n`
			);
		}
	} catch (reason) {
		if (reason instanceof FolderInUseError || reason instanceof OtherKindError) {
			console.error(reason.message);
			process.exit(1);
		}
		throw reason;
	}
	// The server says so when it takes no more requests.
	process.on('sveltekit:shutdown', () => void closeServices().finally(() => process.exit(0)));
};

const SAFE = new Set(['GET', 'HEAD', 'OPTIONS']);
/** Pages that ask no sign-in; a phone link carries its own right. */
const isOpen = (path: string) =>
	path === '/sign-in' ||
	path.startsWith('/sign-in/provider') ||
	path === '/proof' ||
	path === '/come-in' ||
	path === '/forgotten' ||
	['/phone/', '/first/', '/come-in/', '/api/'].some((start) => path.startsWith(start));

type Event = Parameters<Handle>[0]['event'];

export const handle: Handle = async ({ event, resolve }) => {
	const response = (await turnedAway(event)) ?? (await resolve(event));
	response.headers.set('x-content-type-options', 'nosniff');
	response.headers.set('referrer-policy', 'same-origin');
	// What is shown to one person is kept for nobody, unless its route says otherwise.
	if (!response.headers.has('cache-control')) response.headers.set('cache-control', 'private, no-store');
	return response;
};

/** The answer to a request that goes no further; null for one that does. */
async function turnedAway(event: Event): Promise<Response | null> {
	if (!SAFE.has(event.request.method) && !isFromHere(event)) return fromElsewhere(event);
	try {
		event.request = await admit(event.request, event.route.id);
		const { db } = await services();
		if (isOwn() && !isLoopback(event.request))
			return refusal(403, 'This Membrana is for this computer only.');
		isFounded ||= (await schoolOf(db)) !== null;
		event.locals.person = null;
		if (!isFounded) return beforeTheFirstStart(event.url.pathname);
		event.locals.person = await whoAsks(db, event.cookies.get(SESSION_COOKIE));
	} catch (reason) {
		// What was not read to its end ends the connection.
		if (reason instanceof NotAdmittedError)
			return refusal(reason.status, reason.message, { connection: 'close' });
		if (reason instanceof DatabaseAwayError) return away();
		throw reason;
	}
	const { pathname } = event.url;
	if (event.locals.person || isOpen(pathname)) return null;
	const location = `/sign-in?next=${encodeURIComponent(pathname)}`;
	return new Response(null, { status: 303, headers: { location } });
}

/** A page of another site must not act in this one's name, whatever the content type; a form always says whose it is. */
function isFromHere({ request, url }: Event): boolean {
	const origin = request.headers.get('origin');
	const [type] = (request.headers.get('content-type') ?? '').split(';');
	if (origin === null) return !FORMS.has(type!.trim().toLowerCase());
	return origin === url.origin || origin === phoneOrigin(url).origin;
}
/** What a form sends without a script. */
const FORMS = new Set(['application/x-www-form-urlencoded', 'multipart/form-data', 'text/plain']);

/** To somebody who opened this Membrana under another address, too: a form's script shows what is sent as its error. */
function fromElsewhere({ request, url }: Event): Response {
	const message = `Nothing was sent: this page was opened at another address than Membrana's, which is ${url.origin}. Open it there.`;
	if (request.headers.get('x-sveltekit-action') !== 'true') return refusal(403, message);
	return json({ type: 'error', error: { message } }, { status: 403 });
}

/** Once there is a school, there is one. */
let isFounded = false;

/** Nothing answers but the one-time address, and a page that says so. */
function beforeTheFirstStart(path: string): Response | null {
	if (path === '/first' || path.startsWith('/first/')) return null;
	if (path.startsWith('/api/')) return refusal(503, 'This Membrana has not been set up yet.');
	return new Response(null, { status: 303, headers: { location: '/first' } });
}

/** Whether a request names this computer: another site's name that leads here does not. */
function isLoopback(request: Request): boolean {
	return isLoopbackName((request.headers.get('host') ?? '').replace(/:\d+$/, ''));
}

function refusal(status: number, message: string, headers?: Record<string, string>): Response {
	return json({ message }, { status, headers });
}

const AWAY =
	'Membrana cannot reach its database for the moment. Nothing you brought in is lost; try again shortly.';

function away(): Response {
	return json({ message: AWAY }, { status: 503, headers: { 'retry-after': '5' } });
}

export const handleError: HandleServerError = ({ error: reason, status, message }) => {
	if (status === 404) return { message: 'There is nothing here.' };
	console.error(reason);
	if (reason instanceof DatabaseAwayError) return { message: AWAY };
	return {
		message: status >= 500 ? 'Something went wrong here. Nothing you brought in is lost; try again.' : message
	};
};
