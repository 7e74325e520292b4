import { error, redirect, type RequestHandler } from '@sveltejs/kit';
import { nextPath } from '$lib/server/access/nextPath';
import { identifierFrom, ProviderError, type ProviderQuestion } from '$lib/server/access/provider';
import { beginSession, QUESTION_COOKIE } from '$lib/server/access/sessions';
import { services } from '$lib/server/services/services';
import { settingsOf } from '$lib/server/settings/settings';
import { personByIdentifier } from '$lib/server/store/people';

/** Whom the provider sends back: let in when the roster has them, told by their identifier and never by a name. */
export const GET: RequestHandler = async (event) => {
	const { url, cookies } = event;
	const kept = cookies.get(QUESTION_COOKIE);
	cookies.delete(QUESTION_COOKIE, { path: '/sign-in' });
	if (!kept)
		error(400, 'This answer belongs to no question, or came too late. Begin again on the page to sign in.');
	const question = JSON.parse(kept) as ProviderQuestion;
	const { db } = await services();
	let identifier;
	try {
		identifier = await identifierFrom(await settingsOf(db), url, question);
	} catch (reason) {
		if (reason instanceof ProviderError) error(403, reason.message);
		throw reason;
	}
	const person = await personByIdentifier(db, identifier);
	if (!person) {
		error(
			403,
			`The school’s identity provider knows you as “${identifier.slice(0, 60)}”, and the roster here has nobody of that number. Ask your teacher to look at the roster.`
		);
	}
	await beginSession(db, person.id, event);
	redirect(303, nextPath(question.next, url.origin));
};
