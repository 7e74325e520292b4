import { assignmentToTeach } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { checkTime } from '$lib/core/check/check';
import { classRows } from '$lib/server/store/assignments';
import { hasStack } from '$lib/server/store/packets';
import { findingsOf } from '$lib/server/store/findings';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals }) => {
	const { db } = await services();
	const { assignment } = await assignmentToTeach(db, locals, params.id);
	const found = new Map((await findingsOf(db, assignment.id)).map((f) => [f.packetId, f]));
	return {
		id: assignment.id,
		title: assignment.ruleSheet.title,
		courseCode: assignment.courseCode,
		hasStack: await hasStack(db, assignment.id),
		/** What the clock says, of every packet alike. */
		clock: checkTime({ sheet: assignment.ruleSheet, now: Date.now() })[0]?.message ?? null,
		students: (await classRows(db, assignment.id)).map((row) => {
			const kept = row.packetId ? found.get(row.packetId) : undefined;
			const open = kept?.findings.filter((f) => f.level !== 'clear') ?? [];
			return {
				...row,
				checked: kept ? (kept.fresh ? ('now' as const) : ('before' as const)) : null,
				blocks: open.filter((f) => f.level === 'blocks').map(({ rule, message }) => ({ rule, message })),
				look: open.filter((f) => f.level === 'look').map(({ rule, message }) => ({ rule, message }))
			};
		})
	};
};
