import { error, json, type RequestHandler } from '@sveltejs/kit';
import Joi from 'joi';
import type { BoardStudent } from '$lib/core/board/board';
import { list, plural } from '$lib/core/rules/finding';
import { classFor } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { boardRows } from '$lib/server/store/board';
import { ruleSheetOf } from '$lib/server/store/assignments';
import { addLetter, reminderLetter } from '$lib/server/view/letters';

const body = Joi.object<{ people: string[]; words: string }>({
	people: Joi.array().items(Joi.string().uuid()).min(1).max(400).required(),
	words: Joi.string().trim().max(2000).allow('').default('')
});

/** Writes to some of a class that something is still to be handed in. */
export const POST: RequestHandler = async ({ params, locals, request, url }) => {
	const { db, queue, targets } = await services();
	const { value, error: problem } = body.validate(await request.json().catch(() => null));
	if (problem) error(400, problem.message);
	const { assignment, me, students } = await classFor(db, locals, params.id!, value!.people);
	if (!targets.mail)
		error(409, 'No mail server is set, so no letters can be sent. An administrator sets one.');
	const rows = new Map((await boardRows(db, assignment.id)).map((r) => [r.id, r]));
	let written = 0;
	for (const student of students) {
		const row = rows.get(student.id);
		const sheet = { ...assignment, ruleSheet: ruleSheetOf(assignment, { moreTime: row?.moreTime ?? null }) };
		const letter = reminderLetter(
			sheet,
			student,
			me,
			{ words: value!.words, missing: row ? missingOf(row) : '' },
			url.origin
		);
		written += Number(await addLetter({ queue, targets }, student, letter));
	}
	return json({ written, without: students.length - written });
};

/** How far they have come, as a sentence. */
function missingOf({ pages, summary }: BoardStudent): string {
	if (pages === 0) return 'You have brought in no pages yet.';
	const blocking = summary?.open.filter((f) => f.level === 'blocks') ?? [];
	const absent = summary?.cells.filter((c) => c.state === 'absent').map((c) => c.question) ?? [];
	return [
		`You have brought in ${plural(pages, 'page')}.`,
		...(absent.length > 0 ? [`Nothing is placed for ${list(absent)}.`] : []),
		...blocking.slice(0, 3).map((f) => f.message)
	].join(' ');
}
