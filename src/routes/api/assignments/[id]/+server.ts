import { error, json, type RequestHandler } from '@sveltejs/kit';
import { parseRuleSheet, RuleSheetError } from '$lib/core/rules/ruleSheetSchema';
import { assignmentToEdit } from '$lib/server/access/access';
import { packetChanged } from '$lib/server/events/packetEvents';
import { services } from '$lib/server/services/services';
import { saveRuleSheet } from '$lib/server/store/assignments';
import { packetsOf } from '$lib/server/store/packets';

/** Saves a rule sheet: `{version, ruleSheet}`. 409 when somebody else saved in the meantime. */
export const PUT: RequestHandler = async ({ request, params, locals }) => {
	const { db, pages } = await services();
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
		const packets = await packetsOf(db, assignment.id);
		for (const packet of packets) packetChanged(packet);
		// Other labels may be looked for, and the rules say something else: one packet after another, as there is time.
		void (async () => {
			for (const packet of packets) await pages.ensure(packet);
		})().catch(console.error);
		return json({ version: Number(body.version) + 1 });
	} catch (reason) {
		if (reason instanceof RuleSheetError) {
			return json({ message: reason.message, problems: reason.problems }, { status: 422 });
		}
		throw reason;
	}
};
