import { error, json, type RequestHandler } from '@sveltejs/kit';
import Joi from 'joi';
import type { TextLine } from '$lib/core/reading/pageReading';
import { bundleFor, packetFor } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { confirmHidden, goOn, pagesToLookThrough } from '$lib/server/store/bundles';
import { PRIORITY } from '$lib/server/work/kinds';

const fraction = Joi.number().min(0).max(1).required();
const body = Joi.object<{ packet: string; page: string; key: string; boxes: TextLine['box'][] }>({
	packet: Joi.string().uuid().required(),
	page: Joi.string().max(80).required(),
	key: Joi.string().max(80).required(),
	boxes: Joi.array()
		.items(Joi.array().ordered(fraction, fraction, fraction, fraction))
		.max(60)
		.required()
});

/** The pages on which it is not sure that all names are hidden. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const { db } = await services();
	const { bundle } = await bundleFor(db, locals, params.id!);
	return json(await pagesToLookThrough(db, bundle.assignmentId));
};

/** Says what is to be hidden on one page. When no page is left, the bundles that waited for that are made. */
export const POST: RequestHandler = async ({ params, locals, request }) => {
	const { db, queue } = await services();
	const { bundle, me } = await bundleFor(db, locals, params.id!);
	const { value, error: problem } = body.validate(await request.json().catch(() => null));
	if (problem) error(400, problem.message);
	const { packet: packetId, page: pageId, key, boxes } = value!;
	const { packet } = await packetFor(db, locals, packetId);
	if (packet.assignmentId !== bundle.assignmentId) error(404, 'There is no such page here.');
	if (!(await confirmHidden(db, { packetId: packet.id, pageId, key, boxes }, me.id))) {
		error(409, 'This page was changed in the meantime. Make the bundle again.');
	}
	const left = await pagesToLookThrough(db, bundle.assignmentId);
	for (const bundleId of left.length === 0 ? await goOn(db, bundle.assignmentId) : []) {
		await queue.add('make-bundle', { bundleId }, { priority: PRIORITY.waited });
	}
	return json({ left: left.length });
};
