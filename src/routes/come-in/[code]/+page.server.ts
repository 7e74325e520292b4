import { error, fail, redirect } from '@sveltejs/kit';
import { comeIn, whoIsInvited } from '$lib/server/access/invitations';
import { hashPassword } from '$lib/server/access/password';
import { passwordProblem } from '$lib/server/access/passwordRules';
import { RateLimit } from '$lib/server/access/rateLimit';
import { beginSession } from '$lib/server/access/sessions';
import { rightsChanged } from '$lib/server/events/packetEvents';
import { services } from '$lib/server/services/services';
import type { Actions, PageServerLoad } from './$types';

/** Codes cannot be guessed; who tries is slowed down all the same. */
const wrong = new RateLimit(20, 60_000);

async function invited(code: string, address: string) {
	const person = await whoIsInvited((await services()).db, code);
	if (person) return person;
	if (wrong.isTooMany(address))
		error(429, 'Too many codes that lead nowhere. Wait a minute, then try again.');
	return error(
		404,
		'This code has been used, has run out, or never was. If you came in with it before, sign in with your password; otherwise ask your teacher for a new slip.'
	);
}

export const load: PageServerLoad = async ({ params, getClientAddress }) => {
	const { given, family, login, hasPassword } = await invited(params.code, getClientAddress());
	return { given, family, login, hasPassword };
};

export const actions: Actions = {
	default: async (event) => {
		const { params, request, getClientAddress } = event;
		const person = await invited(params.code, getClientAddress());
		const password = String((await request.formData()).get('password') ?? '').slice(0, 400);
		const weak = passwordProblem(password, [person.given, person.family, person.login]);
		if (weak) return fail(400, { problem: weak });
		const { db } = await services();
		const inNow = await comeIn(db, params.code, await hashPassword(password));
		if (!inNow) error(404, 'This code has been used just now.');
		rightsChanged();
		await beginSession(db, inNow.id, event);
		redirect(303, '/');
	}
};
