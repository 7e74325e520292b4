import { error, json, type RequestHandler } from '@sveltejs/kit';
import Joi from 'joi';
import { RETURN_LIMITS, type ReturnReason } from '$lib/core/packet/returned';
import { RULES } from '$lib/core/rules/ruleSheet';
import { packetToReturn } from '$lib/server/access/access';
import { packetChanged } from '$lib/server/events/packetEvents';
import { services } from '$lib/server/services/services';
import { returnPacket, usualReasons } from '$lib/server/store/returns';
import { addLetter, returnLetter } from '$lib/server/view/letters';

interface Given {
	readonly version: number;
	readonly reasons: readonly ReturnReason[];
	readonly words: string;
}

const body = Joi.object<Given>({
	version: Joi.number().integer().min(0).required(),
	reasons: Joi.array()
		.items(
			Joi.object({
				text: Joi.string().trim().min(1).max(RETURN_LIMITS.reason).required(),
				rule: Joi.string().valid(...RULES),
				page: Joi.string().max(80)
			})
		)
		.max(RETURN_LIMITS.reasons)
		.required(),
	words: Joi.string().trim().max(RETURN_LIMITS.words).allow('').default('')
});

/** What the teacher often gives as a reason. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const { db } = await services();
	const { me } = await packetToReturn(db, locals, params.id!);
	return json({ usual: await usualReasons(db, me.id) });
};

/** Gives a packet back to its student, with reasons. */
export const POST: RequestHandler = async ({ params, locals, request, url }) => {
	const { db, queue, targets } = await services();
	const access = await packetToReturn(db, locals, params.id!);
	const { packet, me } = access;
	const { value, error: problem } = body.validate(await request.json().catch(() => null));
	if (problem) error(400, problem.message);
	const { version, reasons, words } = value as Given;
	if (version > packet.version) error(409, 'The packet has no such version.');
	if (reasons.length === 0 && words === '')
		error(422, 'Say why it is given back: choose a reason, or write one.');
	const elsewhere = reasons.find((r) => r.page !== undefined && !packet.state.pages[r.page]);
	if (elsewhere) error(422, `“${elsewhere.text}” is about a page that is not in this packet any more.`);
	await returnPacket(db, packet.id, { version, reasons, words, by: me.id });
	packetChanged(packet.id);
	const written = await addLetter(
		{ queue, targets },
		access.owner,
		returnLetter(access, { reasons, words }, url.origin)
	);
	return json({ written });
};
