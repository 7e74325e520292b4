import { error, fail } from '@sveltejs/kit';
import { signedIn } from '$lib/server/access/access';
import { isOwn } from '$lib/server/access/own';
import { hashPassword, passwordFits } from '$lib/server/access/password';
import { passwordProblem } from '$lib/server/access/passwordRules';
import { SESSION_COOKIE } from '$lib/server/access/sessions';
import { hashOf } from '$lib/server/store/tokenHash';
import { SignInPace } from '$lib/server/access/signInPace';
import { rightsChanged } from '$lib/server/events/packetEvents';
import { services } from '$lib/server/services/services';
import { passwordHashOf, setPassword } from '$lib/server/store/people';
import { endSessionsOf, sessionsOf } from '$lib/server/store/sessions';
import type { Actions, PageServerLoad } from './$types';

const pace = new SignInPace();

function me(locals: App.Locals) {
	return isOwn() ? error(404, 'There is nothing here.') : signedIn(locals);
}

export const load: PageServerLoad = async ({ locals, cookies }) => {
	const person = me(locals);
	const token = hashOf(cookies.get(SESSION_COOKIE) ?? '');
	return {
		login: person.login,
		email: person.email,
		sessions: await sessionsOf((await services()).db, person.id, token)
	};
};

export const actions: Actions = {
	password: async ({ locals, request, cookies, getClientAddress }) => {
		const person = me(locals);
		const form = await request.formData();
		const [now, next] = ['now', 'next'].map((name) => String(form.get(name) ?? '').slice(0, 400));
		const address = getClientAddress();
		const wait = pace.wait(person.login, address);
		if (wait > 0)
			return fail(429, { problem: `Too many wrong tries. Wait ${wait} seconds, then try again.` });
		const { db } = await services();
		if (!(await passwordFits(await passwordHashOf(db, person.id), now!))) {
			pace.failed(person.login, address);
			return fail(400, { problem: 'The password that you have now is another one.' });
		}
		const weak = passwordProblem(next!, [person.given, person.family, person.login]);
		if (weak) return fail(400, { problem: weak });
		await setPassword(db, person.id, await hashPassword(next!));
		await endSessionsOf(db, person.id, { allBut: hashOf(cookies.get(SESSION_COOKIE) ?? '') });
		rightsChanged();
		return { done: 'The password is changed. Everywhere else you are signed out.' };
	},
	end: async ({ locals, request }) => {
		const person = me(locals);
		const id = String((await request.formData()).get('session') ?? '');
		await endSessionsOf((await services()).db, person.id, { id });
		rightsChanged();
		return { done: 'Signed out there.' };
	},
	everywhere: async ({ locals, cookies }) => {
		const person = me(locals);
		const allBut = hashOf(cookies.get(SESSION_COOKIE) ?? '');
		await endSessionsOf((await services()).db, person.id, { allBut });
		rightsChanged();
		return { done: 'Signed out everywhere but here.' };
	}
};
