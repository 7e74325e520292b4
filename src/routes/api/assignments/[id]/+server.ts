import { error, json, type RequestHandler } from '@sveltejs/kit';
import { parseRuleSheet, RuleSheetError } from '$lib/core/rules/ruleSheetSchema';
import { assignmentToEdit } from '$lib/server/access/access';
import { packetChanged } from '$lib/server/events/packetEvents';
import { house } from '$lib/server/house';
import { saveRuleSheet } from '$lib/server/store/assignments';
import { packetsOf } from '$lib/server/store/packets';

/** Saves a rule sheet: `{version, ruleSheet}`. 409 when somebody else saved in the meantime. */
export const PUT: RequestHandler = async ({ request, params, locals }) => {
	const { db } = await house();
	const { assignment } = await assignmentToEdit(db, locals, params.id!);
	const body = (await request.json().catch(() => error(400, 'This is not JSON.'))) as Record<string, unknown>;
	try {
		const sheet = parseRuleSheet(body?.ruleSheet);
		if (!(await saveRuleSheet(db, assignment.id, Number(body.version), sheet))) {
			return json(
				{ message: 'Somebody else saved this rule sheet in the meantime. Reload to see theirs.' },
				{ status: 409 }
			);
		}
		for (const packet of await packetsOf(db, assignment.id)) packetChanged(packet);
		return json({ version: Number(body.version) + 1 });
	} catch (reason) {
		if (reason instanceof RuleSheetError) {
			return json({ message: reason.message, problems: reason.problems }, { status: 422 });
		}
		throw reason;
	}
};
