import { error, json, type RequestHandler } from '@sveltejs/kit';
import Joi from 'joi';
import { check } from '$lib/core/rules/check';
import { evidenceOf } from '$lib/core/rules/evidence';
import { packetFor } from '$lib/server/access/access';
import { packetChanged } from '$lib/server/events/packetEvents';
import { house } from '$lib/server/house';
import { packetPages, pageViews } from '$lib/server/packetView';
import { studentsOf } from '$lib/server/store/courses';
import { beginDelivery, deliveryById, fileById } from '$lib/server/store/deliveries';

const body = Joi.object({
	file: Joi.string().uuid().required(),
	/** Made by the browser once for each wish to hand in: a second click is the same wish. */
	key: Joi.string().min(16).max(80).required()
});

/** Hands a made file in. The answer comes at once; the delivery itself goes on by itself. */
export const POST: RequestHandler = async ({ params, locals, request }) => {
	const { db, queue } = await house();
	const { packet, assignment, owner, me } = await packetFor(db, locals, params.id!);
	const { value, error: problem } = body.validate(await request.json().catch(() => null));
	if (problem) error(400, problem.message);
	const file = await fileById(db, value.file);
	if (!file || file.packetId !== packet.id || file.state !== 'ready') error(404, 'There is no such file.');
	if (file.packetVersion !== packet.version) {
		error(409, 'The packet was changed after this file was made. Look at the new file first.');
	}
	const { pages } = await packetPages(db, packet, assignment.ruleSheet);
	const roster = await studentsOf(db, assignment.courseId);
	const blocking = check({
		sheet: { ...assignment.ruleSheet, course: assignment.ruleSheet.course || assignment.courseCode },
		packet: packet.state,
		evidence: evidenceOf(pageViews(pages, roster, owner)),
		person: owner,
		now: Date.now()
	}).filter((f) => f.level === 'blocks');
	if (blocking.length > 0) error(422, `This still blocks: ${blocking.map((f) => f.message).join(' ')}`);
	const id = await beginDelivery(db, {
		packetId: packet.id,
		fileId: file.id,
		personId: me.id,
		idempotencyKey: `${packet.id}/${value.key}`
	});
	await queue.add('deliver', { deliveryId: id }, { priority: 10 });
	packetChanged(packet.id);
	return json(await deliveryById(db, id));
};
