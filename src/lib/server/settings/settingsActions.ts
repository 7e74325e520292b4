import { fail, type RequestEvent } from '@sveltejs/kit';
import type { Services } from '../services/services';
import { changeSettings, settingsOf } from './settings';
import { settingsIn } from './settingsForm';
import { tryOut, WAYS, type Way } from './tryOut';

/** Saves the settings that a form holds. */
export async function saveSettings(services: Services, event: RequestEvent) {
	const { settings, problem } = await settingsIn(services, await event.request.formData());
	if (problem) return fail(400, { problem });
	await changeSettings(services.db, settings);
	await services.settingsChanged();
	return { saved: true, changed: Object.keys(settings) };
}

/** Saves them, then tries one of the ways. @param to where a letter to try goes; null: to whom letters come from */
export async function saveAndTry(
	services: Services,
	event: RequestEvent,
	to: { readonly email: string | null } | null
) {
	const saved = await saveSettings(services, event);
	if ('status' in saved) return saved;
	const what = event.url.searchParams.get('what') as Way;
	if (!Object.hasOwn(WAYS, what)) return fail(400, { problem: 'There is no such thing to try.' });
	const { targets, db, disk, limits } = services;
	const address = to ? to.email : (targets.mail?.from ?? null);
	const given = { db, disk, limits, targets, settings: await settingsOf(db), to: address };
	return { tried: { what, ...(await tryOut(what, given)) } };
}
