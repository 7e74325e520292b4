import { administrator } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { saveAndTry, saveSettings } from '$lib/server/settings/settingsActions';
import { settingsView } from '$lib/server/settings/settingsForm';
import { noteDeed } from '$lib/server/store/deeds';
import { renameSchool } from '$lib/server/store/school';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	administrator(locals);
	return settingsView(await services());
};

export const actions: Actions = {
	save: async (event) => {
		const me = administrator(event.locals);
		const all = await services();
		const saved = await saveSettings(all, event);
		if ('changed' in saved) await noteDeed(all.db, me, `Changed settings: ${saved.changed.join(', ')}`);
		return saved;
	},
	try: async (event) => {
		const me = administrator(event.locals);
		return saveAndTry(await services(), event, me);
	},
	name: async ({ locals, request }) => {
		const me = administrator(locals);
		const name = String((await request.formData()).get('name') ?? '')
			.trim()
			.slice(0, 200);
		if (name) {
			const { db } = await services();
			await renameSchool(db, name);
			await noteDeed(db, me, `Named the school ${name}`);
		}
		return { saved: name !== '' };
	}
};
