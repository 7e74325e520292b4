import { error, json, type RequestHandler } from '@sveltejs/kit';
import Joi from 'joi';
import { classFor } from '$lib/server/access/access';
import { packetsChanged } from '$lib/server/events/packetEvents';
import { services } from '$lib/server/services/services';
import { giveTime } from '$lib/server/store/board';

const body = Joi.object<{ people: string[]; due: string | null }>({
	people: Joi.array().items(Joi.string().uuid()).min(1).max(400).required(),
	/** A moment with its zone; null takes the time that was given back. */
	due: Joi.string()
		.pattern(/^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d)?(Z|[+-]\d\d:\d\d)$/)
		.allow(null)
		.required()
});

/** Gives some of a class more time. */
export const POST: RequestHandler = async ({ params, locals, request }) => {
	const { db } = await services();
	const { value, error: problem } = body.validate(await request.json().catch(() => null));
	if (problem) error(400, problem.message);
	const { assignment, me, students } = await classFor(db, locals, params.id!, value!.people);
	const { due } = value!;
	if (due !== null) {
		const usual = assignment.ruleSheet.due;
		if (!usual) error(422, 'This assignment has no due time, so nobody needs more.');
		if (Number.isNaN(Date.parse(due))) error(400, 'There is no such moment.');
		if (Date.parse(due) <= Date.parse(usual)) {
			error(422, 'That is not later than it is due for everybody. Choose a later time.');
		}
	}
	await giveTime(
		db,
		assignment.id,
		students.map((s) => s.id),
		due,
		me.id
	);
	packetsChanged(students.flatMap((s) => s.packetId ?? []));
	return json({});
};
