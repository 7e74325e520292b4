import { error, json, type RequestHandler } from '@sveltejs/kit';
import Joi from 'joi';
import { nameProblems } from '$lib/core/naming/namePattern';
import { expectedFileName } from '$lib/core/rules/expectedFileName';
import { packetFor } from '$lib/server/access/access';
import { ruleSheetOf } from '$lib/server/store/assignments';
import { services } from '$lib/server/services/services';
import { PRIORITY } from '$lib/server/work/kinds';
import { beginFile } from '$lib/server/store/deliveries';

const body = Joi.object({
	version: Joi.number().integer().min(0).required(),
	type: Joi.string().valid('pdf', 'zip').required()
});

/** Has the packet's file made, for the version the person sees. Ask again until it is ready. */
export const POST: RequestHandler = async ({ params, locals, request }) => {
	const { db, queue } = await services();
	const { packet, assignment, owner } = await packetFor(db, locals, params.id!);
	const { value, error: problem } = body.validate(await request.json().catch(() => null));
	if (problem) error(400, problem.message);
	if (value.version !== packet.version) error(409, 'The packet was changed in the meantime.');
	if (packet.state.strip.length === 0) error(422, 'There are no pages to make a file of.');
	const sheet = ruleSheetOf(assignment);
	const name = packet.state.fileName ?? expectedFileName(sheet, owner);
	if (nameProblems(name).length > 0) error(422, `The name cannot be used: ${nameProblems(name).join(', ')}.`);
	const file = await beginFile(db, packet.id, packet.version, name, value.type);
	if (file.state === 'making') {
		await queue.add('make-file', { fileId: file.id }, { packetId: packet.id, priority: PRIORITY.looked });
	}
	return json(file);
};
