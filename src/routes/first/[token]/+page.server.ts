import { error, fail, redirect } from '@sveltejs/kit';
import { beginSchool, opensFirstStart } from '$lib/server/access/firstStart';
import { hashPassword } from '$lib/server/access/password';
import { passwordProblem } from '$lib/server/access/passwordRules';
import { RateLimit } from '$lib/server/access/rateLimit';
import { beginSession } from '$lib/server/access/sessions';
import { services } from '$lib/server/services/services';
import { personFields } from '$lib/server/access/personFields';
import { noteDeed } from '$lib/server/store/deeds';
import type { Actions, PageServerLoad } from './$types';

const wrong = new RateLimit(20, 60_000);

async function open(token: string, address: string): Promise<void> {
	if (await opensFirstStart((await services()).db, token)) return;
	if (wrong.isTooMany(address))
		error(429, 'Too many addresses that lead nowhere. Wait a minute, then try again.');
	error(
		404,
		'This address has been used, or its hour is over. Start Membrana again: while there is no administrator, it prints a new one.'
	);
}

export const load: PageServerLoad = async ({ params, getClientAddress }) => {
	await open(params.token, getClientAddress());
	return {};
};

export const actions: Actions = {
	default: async (event) => {
		const { params, request, getClientAddress } = event;
		await open(params.token, getClientAddress());
		const form = await request.formData();
		const school = String(form.get('school') ?? '')
			.trim()
			.slice(0, 200);
		const { fields, problem } = personFields(form);
		const password = String(form.get('password') ?? '');
		const kept = { ...fields, school };
		if (!school) return fail(400, { ...kept, problem: 'Give the name of the school.' });
		if (problem) return fail(400, { ...kept, problem });
		const weak = passwordProblem(password, [...Object.values(fields), school, 'membrana']);
		if (weak) return fail(400, { ...kept, problem: weak });
		const { db } = await services();
		const passwordHash = await hashPassword(password);
		const id = await beginSchool(db, params.token, school, { ...fields, passwordHash });
		if (!id) error(404, 'Somebody else has used this address just now.');
		await noteDeed(db, { id, ...fields }, `Set up ${school} and became its first administrator`);
		await beginSession(db, id, event);
		redirect(303, '/school');
	}
};
