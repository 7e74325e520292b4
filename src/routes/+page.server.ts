import { describeRules } from '$lib/core/check/describeRules';
import { signedIn } from '$lib/server/access/access';
import { isOwn } from '$lib/server/access/own';
import { services } from '$lib/server/services/services';
import { deskRows } from '$lib/server/store/assignments';
import { coursesTaught } from '$lib/server/store/courses';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const me = signedIn(locals);
	const { db } = await services();
	const rows = await deskRows(db, me.id);
	const taught = await coursesTaught(db, me.id);
	return {
		now: Date.now(),
		named: me.given !== '' || me.family !== '',
		teaches: taught.length > 0,
		courses: isOwn() ? [] : taught,
		assignments: rows.map((row) => ({
			id: row.id,
			title: row.ruleSheet.title,
			courseCode: row.courseCode,
			courseTitle: row.courseTitle,
			due: row.moreTime ?? row.ruleSheet.due ?? null,
			role: row.role,
			packetId: row.packetId,
			pages: row.pages,
			handedInAt: row.handedInAt,
			returnedAt: row.returnedAt,
			students: row.students,
			begun: row.begun,
			handedIn: row.handedIn,
			lookedAt: row.lookedAt,
			since: row.since,
			open: row.open,
			// What is asked is told where nothing was begun.
			asked: row.role !== 'teacher' && row.pages === 0 ? describeRules(row.ruleSheet, me) : []
		}))
	};
};
