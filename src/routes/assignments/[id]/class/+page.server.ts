import { assignmentToTeach } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { lookAtBoard } from '$lib/server/store/board';
import { hasStack } from '$lib/server/store/packets';
import { boardView } from '$lib/server/view/boardView';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals }) => {
	const { db } = await services();
	const { assignment, me } = await assignmentToTeach(db, locals, params.id);
	return {
		title: assignment.ruleSheet.title,
		courseCode: assignment.courseCode,
		fileType: assignment.ruleSheet.file?.type ?? ('pdf' as const),
		hasStack: await hasStack(db, assignment.id),
		board: await boardView(db, assignment),
		lookedAt: await lookAtBoard(db, assignment.id, me.id)
	};
};
