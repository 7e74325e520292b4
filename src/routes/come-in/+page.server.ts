import { redirect } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ url }) => {
	const code = url.searchParams.get('code')?.trim();
	if (code) redirect(303, `/come-in/${encodeURIComponent(code.slice(0, 60))}`);
};
