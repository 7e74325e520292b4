import { isOwn } from '$lib/server/access/own';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = ({ locals }) => ({
	/** Whether this is one person's own Membrana: nobody signs in or out. */
	own: isOwn(),
	person: locals.person && {
		given: locals.person.given,
		family: locals.person.family,
		roles: locals.person.roles,
		isAdministrator: locals.person.isAdministrator
	}
});
