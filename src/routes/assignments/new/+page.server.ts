import { error } from '@sveltejs/kit';
import { NEW_SHEET, type RuleSheet } from '$lib/core/rules/ruleSheet';
import { signedIn } from '$lib/server/access/access';
import { isOwn } from '$lib/server/access/own';
import { services } from '$lib/server/services/services';
import { coursesTaught } from '$lib/server/store/courses';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const me = signedIn(locals);
	const courses = await coursesTaught((await services()).db, me.id);
	if (courses.length === 0) error(404, 'Only teachers write rule sheets.');
	return {
		courses: courses.map(({ defaults, ...course }) => ({
			...course,
			timeZone: isOwn() ? null : course.timeZone,
			sheet: newSheet(course.code, defaults, isOwn())
		}))
	};
};

/** What a rule sheet begins with; on one's own the file is named after the assignment, as no course is known. */
function newSheet(code: string, defaults: Partial<RuleSheet>, own: boolean): RuleSheet {
	if (!own) return { ...NEW_SHEET, ...defaults, course: code };
	return { ...NEW_SHEET, file: { ...NEW_SHEET.file, namePattern: '{family}_{given}_{title}' } };
}
