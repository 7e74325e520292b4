import { fail } from '@sveltejs/kit';
import { RateLimit } from '$lib/server/access/rateLimit';
import { services } from '$lib/server/services/services';
import { personCalled } from '$lib/server/store/people';
import type { Actions, PageServerLoad } from './$types';

const byAddress = new RateLimit(10, 3_600_000);
const byPerson = new RateLimit(3, 3_600_000);

export const load: PageServerLoad = async () => ({ mails: (await services()).targets.mail !== null });

export const actions: Actions = {
	/** Says the same whether there is such a person or not. */
	default: async ({ request, url, getClientAddress }) => {
		const called = String((await request.formData()).get('called') ?? '')
			.trim()
			.slice(0, 200);
		if (called === '') return fail(400, { problem: 'Give your sign-in name or your mail address.' });
		if (byAddress.isTooMany(getClientAddress())) {
			return fail(429, {
				problem: 'Too many letters were asked for. Wait an hour, or ask your teacher for a slip.'
			});
		}
		const { db, queue, targets } = await services();
		const person = targets.mail ? await personCalled(db, called) : null;
		if (person?.email && !byPerson.isTooMany(person.id)) {
			await queue.add('send-invitation', { personId: person.id, madeBy: null, origin: url.origin });
		}
		return { asked: true };
	}
};
