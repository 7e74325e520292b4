import { error, json, type RequestHandler } from '@sveltejs/kit';
import { parseRuleSheet, RuleSheetError } from '$lib/core/rules/ruleSheetSchema';
import { courseToTeach } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { addAssignment } from '$lib/server/store/assignments';

/** Sets a new assignment in a course: `{course, ruleSheet}`. */
export const POST: RequestHandler = async ({ request, locals }) => {
	const { db } = await services();
	const body = (await request.json().catch(() => error(400, 'This is not JSON.'))) as Record<string, unknown>;
	const me = await courseToTeach(db, locals, String(body?.course ?? ''));
	try {
		const id = await addAssignment(db, String(body.course), parseRuleSheet(body.ruleSheet), me.id);
		return json({ id }, { status: 201 });
	} catch (reason) {
		if (reason instanceof RuleSheetError) {
			return json({ message: reason.message, problems: reason.problems }, { status: 422 });
		}
		throw reason;
	}
};
