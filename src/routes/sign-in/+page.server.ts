import { fail, redirect } from '@sveltejs/kit';
import { nextPath } from '$lib/server/access/nextPath';
import { passwordFits } from '$lib/server/access/password';
import { beginSession } from '$lib/server/access/sessions';
import { SignInPace } from '$lib/server/access/signInPace';
import { plural } from '$lib/core/rules/finding';
import { services } from '$lib/server/services/services';
import { demoAccounts } from '$lib/server/demoAccounts';
import { hasProvider } from '$lib/server/access/provider';
import { settingsOf } from '$lib/server/settings/settings';
import { schoolOf } from '$lib/server/store/school';
import { personByLogin } from '$lib/server/store/people';
import type { Actions, PageServerLoad } from './$types';

const pace = new SignInPace();

export const load: PageServerLoad = async ({ locals, url }) => {
	if (locals.person) redirect(303, '/');
	const { db } = await services();
	return {
		demo: demoAccounts(),
		school: (await schoolOf(db))?.name ?? '',
		provider: hasProvider(await settingsOf(db)) ? `/sign-in/provider${url.search}` : null
	};
};

export const actions: Actions = {
	default: async (event) => {
		const { request, url, getClientAddress, setHeaders } = event;
		const form = await request.formData();
		const login = String(form.get('login') ?? '')
			.trim()
			.slice(0, 200);
		const password = String(form.get('password') ?? '').slice(0, 200);
		if (!login || !password) return fail(400, { login, problem: 'Give your sign-in name and password.' });
		const address = getClientAddress();
		const wait = pace.wait(login, address);
		if (wait > 0) {
			setHeaders({ 'retry-after': String(wait) });
			return fail(429, {
				login,
				problem: `Too many wrong tries. Wait ${plural(wait, 'second')}, then try again.`
			});
		}
		const hold = pace.hold(login);
		if (hold > 0) await new Promise((done) => setTimeout(done, 1000 * hold));
		const { db } = await services();
		const person = await personByLogin(db, login);
		if (!(await passwordFits(person?.passwordHash ?? null, password))) {
			pace.failed(login, address);
			return fail(400, { login, problem: 'This name and password do not belong together.' });
		}
		pace.succeeded(login, address);
		await beginSession(db, person!.id, event);
		redirect(303, nextPath(url.searchParams.get('next'), url.origin));
	}
};
