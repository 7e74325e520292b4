import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = ({ locals }) => ({
	person: locals.person && {
		given: locals.person.given,
		family: locals.person.family,
		roles: locals.person.roles
	}
});
