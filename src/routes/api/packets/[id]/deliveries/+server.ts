import { error, json, type RequestHandler } from '@sveltejs/kit';
import Joi from 'joi';
import { notesInWords } from '$lib/core/check/notes';
import { packetFor } from '$lib/server/access/access';
import { checkPacket } from '$lib/server/view/checkPacket';
import { destinationFor } from '$lib/server/delivery/destinations';
import { packetChanged } from '$lib/server/events/packetEvents';
import { services } from '$lib/server/services/services';
import { PRIORITY } from '$lib/server/work/kinds';
import { TARGET_KINDS, TARGETS, type TargetName } from '$lib/core/delivery/targets';
import { beginDelivery, deliveriesOf, deliveryById, fileById } from '$lib/server/store/deliveries';

interface HandIn {
	readonly file: string;
	readonly key: string;
	readonly target: TargetName;
	readonly to: string;
	readonly confirmed: string;
	readonly comment: string;
}

const body = Joi.object<HandIn>({
	file: Joi.string().uuid().required(),
	/** Made by the browser once for each wish to hand in: a second click is the same wish. */
	key: Joi.string()
		.pattern(/^[A-Za-z0-9_-]{16,80}$/)
		.required(),
	target: Joi.string()
		.valid(...TARGETS)
		.default('portal'),
	/** The assignment at the portal, or the address; '' is the packet's own assignment. */
	to: Joi.string().max(200).allow('').default(''),
	/** The title of another assignment than the packet's own, to confirm that it is meant. */
	confirmed: Joi.string().max(300).allow('').default(''),
	comment: Joi.string().trim().max(2000).allow('').default('')
});

/** Hands a made file in. The answer comes at once; the delivery itself goes on by itself. */
export const POST: RequestHandler = async ({ params, locals, request }) => {
	const { db, queue, targets } = await services();
	const access = await packetFor(db, locals, params.id!);
	const { packet, assignment, me } = access;
	if (packet.kind === 'stack') error(422, 'A stack is handed in packet by packet.');
	const { value, error: problem } = body.validate(await request.json().catch(() => null));
	if (problem) error(400, problem.message);
	const { file: fileId, key, target, confirmed } = value as HandIn;
	const file = await fileById(db, fileId);
	if (!file || file.packetId !== packet.id || file.state !== 'ready') error(404, 'There is no such file.');
	if (file.packetVersion !== packet.version) {
		error(409, 'The packet was changed after this file was made. Look at the new file first.');
	}
	const { findings } = await checkPacket(db, access, file.type);
	const blocking = findings.filter((f) => f.level === 'blocks');
	if (blocking.length > 0) error(422, `This still blocks: ${blocking.map((f) => f.message).join(' ')}`);
	const destination = await destinationFor(db, targets, access, value as HandIn);
	if ('problem' in destination) error(destination.status, destination.problem);
	if (destination.isOther && confirmed !== destination.title) {
		error(
			422,
			`This packet answers "${assignment.ruleSheet.title}" (${assignment.courseCode}), and was to go to "${destination.title}" (${destination.course}). Confirm that this is meant.`
		);
	}
	const { to, title, course } = destination;
	const isOwn = TARGET_KINDS[target].hasAssignments && to === assignment.id;
	const standing = (await deliveriesOf(db, packet.id)).find(
		(d) => d.state === 'received' && d.target === target && d.destination.to === to
	);
	const id = await beginDelivery(db, {
		packetId: packet.id,
		fileId: file.id,
		personId: me.id,
		// Another destination is another wish.
		idempotencyKey: [packet.id, key, ...(isOwn ? [] : [target, to])].join('/'),
		target,
		destination: { to, title, course },
		comment: [(value as HandIn).comment, notesInWords(packet.state.notes, findings)]
			.filter(Boolean)
			.join('\n\n'),
		replaces: standing?.id ?? null
	});
	await queue.add(`deliver-${target}`, { deliveryId: id }, { priority: PRIORITY.waited });
	packetChanged(packet.id);
	return json(await deliveryById(db, id));
};
