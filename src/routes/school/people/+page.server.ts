import { fail } from '@sveltejs/kit';
import { administrator, personToManage } from '$lib/server/access/access';
import { personFields } from '$lib/server/access/personFields';
import { rightsChanged } from '$lib/server/events/packetEvents';
import { eraseForGood } from '$lib/server/services/erasing';
import { services } from '$lib/server/services/services';
import { holdingsOf } from '$lib/server/store/erase';
import { noteDeed } from '$lib/server/store/deeds';
import {
	addPerson,
	archivePerson,
	findPeople,
	isLoginTaken,
	makeAdministrator
} from '$lib/server/store/people';
import type { Actions, PageServerLoad } from './$types';

const WINDOW = 100;

export const load: PageServerLoad = async ({ locals, url }) => {
	const me = administrator(locals);
	const words = (url.searchParams.get('find') ?? '').slice(0, 100);
	const from = Math.max(0, Math.floor(Number(url.searchParams.get('from')) || 0));
	const { db, targets } = await services();
	const found = await findPeople(db, words, { from, most: WINDOW });
	return { ...found, words, from, window: WINDOW, me: me.id, mails: targets.mail !== null };
};

export const actions: Actions = {
	add: async ({ locals, request }) => {
		const me = administrator(locals);
		const { db } = await services();
		const form = await request.formData();
		const { fields, problem } = personFields(form);
		if (problem) return fail(400, { ...fields, problem });
		if (await isLoginTaken(db, fields.login)) {
			return fail(400, { ...fields, problem: `Somebody else has the sign-in name ${fields.login}.` });
		}
		await db.transaction(async (tx) => {
			await addPerson(tx, { ...fields, passwordHash: null });
			await noteDeed(tx, me, `Added ${fields.given} ${fields.family} (${fields.login})`);
		});
		return {
			done: `${fields.given} ${fields.family} is here now. Give them a way in: a letter from this page, or a slip on the page of a course.`
		};
	},
	archive: async ({ locals, request }) => {
		const { db, me, person } = await managed(locals, request);
		if (person.id === me.id) return fail(400, { problem: 'You cannot archive yourself.' });
		const archived = !person.isArchived;
		await db.transaction(async (tx) => {
			await archivePerson(tx, person.id, archived);
			await noteDeed(tx, me, `${archived ? 'Archived' : 'Took back'} ${person.given} ${person.family}`);
		});
		rightsChanged();
		return {
			done: `${person.given} ${person.family} ${archived ? 'cannot sign in any more. Their work is kept.' : 'is back.'}`
		};
	},
	administrator: async ({ locals, request }) => {
		const { db, me, person } = await managed(locals, request);
		if (person.id === me.id) return fail(400, { problem: 'Somebody else has to do this for you.' });
		await db.transaction(async (tx) => {
			await makeAdministrator(tx, person.id, !person.isAdministrator);
			await noteDeed(
				tx,
				me,
				`${person.isAdministrator ? 'Made no administrator any more' : 'Made an administrator'}: ${person.given} ${person.family}`
			);
		});
		return {
			done: `${person.given} ${person.family} is ${person.isAdministrator ? 'no administrator any more' : 'an administrator now'}.`
		};
	},
	/** Says what would go, before anything does. */
	holdings: async ({ locals, request }) => {
		const { db, person } = await managed(locals, request);
		if (!person.isArchived) return fail(400, { problem: 'Archive them first.' });
		const name = `${person.given} ${person.family}`.trim();
		return { erase: { id: person.id, name, ...(await holdingsOf(db, { personId: person.id })) } };
	},
	erase: async ({ locals, request }) => {
		const { me, person } = await managed(locals, request);
		if (!person.isArchived) return fail(400, { problem: 'Archive them first.' });
		await eraseForGood(await services(), me, person);
		return { done: 'Erased. A row without a name is left, so that what they did for others has an author.' };
	},
	letter: async ({ locals, request, url }) => {
		const { me, person } = await managed(locals, request);
		const { queue, targets } = await services();
		if (!targets.mail)
			return fail(409, { problem: 'No mail server is set. Set one under Settings, or print a slip.' });
		if (!person.email)
			return fail(409, { problem: `${person.given} ${person.family} has no mail address here.` });
		await queue.add('send-invitation', { personId: person.id, madeBy: me.id, origin: url.origin });
		return { done: `A letter to ${person.email} is on its way.` };
	}
};

async function managed(locals: App.Locals, request: Request) {
	const { db } = await services();
	const id = String((await request.formData()).get('person') ?? '');
	return { db, ...(await personToManage(db, locals, id)) };
}
