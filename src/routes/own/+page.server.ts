import { resolve } from 'node:path';
import { error, fail } from '@sveltejs/kit';
import { signedIn } from '$lib/server/access/access';
import { isOwn } from '$lib/server/access/own';
import { services } from '$lib/server/services/services';
import { saveAndTry, saveSettings } from '$lib/server/settings/settingsActions';
import { settingsView } from '$lib/server/settings/settingsForm';
import { renamePerson } from '$lib/server/store/people';
import type { Actions, PageServerLoad } from './$types';

/** The settings of a Membrana of one's own; in a school there is no such page. */
function owner(locals: App.Locals) {
	return isOwn() ? signedIn(locals) : error(404, 'There is nothing here.');
}

export const load: PageServerLoad = async ({ locals }) => {
	const { given, family } = owner(locals);
	return {
		given,
		family,
		data: resolve(process.env.MEMBRANA_DATA ?? 'data'),
		...(await settingsView(await services()))
	};
};

export const actions: Actions = {
	name: async ({ locals, request }) => {
		const me = owner(locals);
		const form = await request.formData();
		const text = (name: string) =>
			String(form.get(name) ?? '')
				.normalize('NFC')
				.trim()
				.slice(0, 100);
		if (!text('given') && !text('family')) return fail(400, { problem: 'Give at least one name.' });
		await renamePerson((await services()).db, me.id, text('given'), text('family'));
		return { named: true };
	},
	save: async (event) => {
		owner(event.locals);
		return saveSettings(await services(), event);
	},
	try: async (event) => {
		owner(event.locals);
		return saveAndTry(await services(), event, null);
	}
};
