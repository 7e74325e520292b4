import { fail, redirect, type Actions, type ServerLoad } from '@sveltejs/kit';
import { passwordFits } from '$lib/server/access/password';
import { RateLimit } from '$lib/server/access/rateLimit';
import { beginSession, SESSION_COOKIE, SESSION_SECONDS } from '$lib/server/access/sessions';
import { house } from '$lib/server/house';
import { demoAccounts } from '$lib/server/demoAccounts';
import { personByLogin } from '$lib/server/store/people';

const tries = new RateLimit(10, 5 * 60_000);

export const load: ServerLoad = ({ locals }) => {
	if (locals.person) redirect(303, '/');
	return { demo: demoAccounts() };
};

export const actions: Actions = {
	default: async ({ request, cookies, url, getClientAddress }) => {
		const form = await request.formData();
		const login = String(form.get('login') ?? '').slice(0, 200);
		const password = String(form.get('password') ?? '').slice(0, 200);
		if (!login || !password) return fail(400, { login, problem: 'Give your sign-in name and password.' });
		const key = `${getClientAddress()} ${login.toLowerCase()}`;
		if (tries.isTooMany(key)) {
			return fail(429, { login, problem: 'Too many tries. Wait five minutes, then try again.' });
		}
		const { db } = await house();
		const person = await personByLogin(db, login);
		if (!(await passwordFits(person?.passwordHash ?? null, password))) {
			return fail(400, { login, problem: 'This name and password do not belong together.' });
		}
		tries.forget(key);
		cookies.set(SESSION_COOKIE, await beginSession(db, person!.id), {
			path: '/',
			httpOnly: true,
			sameSite: 'lax',
			secure: url.protocol === 'https:',
			maxAge: SESSION_SECONDS
		});
		const next = url.searchParams.get('next') ?? '/';
		// Only to a path of this site: "//host" would lead elsewhere.
		redirect(303, /^\/(?![/\\])/.test(next) ? next : '/');
	}
};
