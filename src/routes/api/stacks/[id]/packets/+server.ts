import { error, json, type RequestHandler } from '@sveltejs/kit';
import Joi from 'joi';
import { PACKET_LIMITS } from '$lib/core/packet/limits';
import { stackFor } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { studentsOf } from '$lib/server/store/courses';
import { makePackets } from '$lib/server/work/makePackets';

/** The first pages of what is made into packets. */
const body = Joi.object<{ first: string[] }>({
	first: Joi.array().items(Joi.string().max(64)).min(1).max(PACKET_LIMITS.pages).unique().required()
});

/** Makes packets of what the stack was cut into. Whose packet is not known is left. */
export const POST: RequestHandler = async ({ params, locals, request }) => {
	const all = await services();
	const { packet, assignment, me } = await stackFor(all.db, locals, params.id!);
	const { value, error: problem } = body.validate(await request.json().catch(() => null));
	if (problem) error(400, problem.message);
	const people = new Set((await studentsOf(all.db, assignment.courseId)).map((p) => p.id));
	return json({ made: await makePackets(all, packet, value!.first, people, me.id) });
};
