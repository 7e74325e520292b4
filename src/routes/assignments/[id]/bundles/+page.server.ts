import { answerables } from '$lib/core/assignment/question';
import { isPartOf } from '$lib/core/bundle/cutOuts';
import { assignmentToTeach } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { boardRows } from '$lib/server/store/board';
import { bundlesOf } from '$lib/server/store/bundles';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals }) => {
	const { db } = await services();
	const { assignment } = await assignmentToTeach(db, locals, params.id);
	const packets = (await boardRows(db, assignment.id)).filter((r) => r.pages > 0);
	const questions = [...new Set(answerables(assignment.ruleSheet.questions).map((a) => a.question))];
	return {
		id: assignment.id,
		title: assignment.ruleSheet.title,
		courseCode: assignment.courseCode,
		packets: packets.length,
		handedIn: packets.filter((r) => r.handedInAt).length,
		/** How many packets answer each question, where that is known. */
		questions: questions.map((question) => ({
			question,
			answers: packets.filter((r) =>
				r.summary?.cells.some(
					(c) => isPartOf(c.question, question) && c.pages.length > 0 && c.state !== 'open'
				)
			).length
		})),
		bundles: await bundlesOf(db, assignment.id)
	};
};
