import { error, redirect, type RequestHandler } from '@sveltejs/kit';
import { nextPath } from '$lib/server/access/nextPath';
import { askProvider, hasProvider, ProviderError } from '$lib/server/access/provider';
import { QUESTION_COOKIE } from '$lib/server/access/sessions';
import { services } from '$lib/server/services/services';
import { settingsOf } from '$lib/server/settings/settings';

/** Seconds in which the provider's answer has to come. */
const LASTS = 600;

/** Sends the browser to the school's identity provider. */
export const GET: RequestHandler = async ({ url, cookies }) => {
	const settings = await settingsOf((await services()).db);
	if (!hasProvider(settings)) error(404, 'There is nothing here.');
	let asked;
	try {
		asked = await askProvider(
			settings,
			`${url.origin}/sign-in/provider/back`,
			nextPath(url.searchParams.get('next'), url.origin)
		);
	} catch (reason) {
		if (reason instanceof ProviderError) error(503, reason.message);
		throw reason;
	}
	cookies.set(QUESTION_COOKIE, JSON.stringify(asked.question), {
		path: '/sign-in',
		httpOnly: true,
		sameSite: 'lax',
		secure: url.protocol === 'https:',
		maxAge: LASTS
	});
	redirect(303, asked.address);
};
