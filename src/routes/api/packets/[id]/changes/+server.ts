import { error, json, type RequestHandler } from '@sveltejs/kit';
import Joi from 'joi';
import { ChangeError, type Change } from '$lib/core/packet/change';
import { changeSchema } from '$lib/core/packet/changeSchema';
import { packetFor, packetHeadFor } from '$lib/server/access/access';
import { packetChanged } from '$lib/server/events/packetEvents';
import { services } from '$lib/server/services/services';
import { heardSchema, packetNews, type Heard } from '$lib/server/view/packetView';
import type { Database } from '$lib/server/store/database';
import { hasPicture } from '$lib/server/store/sources';
import { command, StaleVersionError, type Command } from '$lib/server/store/packets';

const key = Joi.string().pattern(/^[A-Za-z0-9_-]{1,64}$/);
const body = Joi.alternatives(
	Joi.object({
		kind: Joi.string().valid('edit').required(),
		base: Joi.number().integer().min(0).required(),
		change: changeSchema,
		key,
		heard: heardSchema
	}),
	Joi.object({
		kind: Joi.string().valid('undo', 'redo').required(),
		base: Joi.number().integer().min(0).required(),
		key,
		heard: heardSchema
	})
);

/**
 * Carries out one edit, undo or redo; answers with what is new since `heard`, or only with the version that the packet
 * has now. 409 when the packet has moved on.
 */
export const POST: RequestHandler = async ({ params, locals, request }) => {
	const { db, pages } = await services();
	const access = await packetFor(db, locals, params.id!);
	const { value, error: problem } = body.validate(await request.json().catch(() => null));
	if (problem) error(400, `This change cannot be understood: ${problem.message}`);
	const what = value as Command & { base: number; key?: string; heard?: Heard };
	if (what.kind === 'edit' && !(await hasPictures(db, access.packet.id, what.change as Change))) {
		error(422, 'This picture is not in the packet.');
	}
	try {
		const packet = await command(db, access.packet.id, access.me.id, what.base, what, what.key ?? null);
		packetChanged(packet.id);
		void pages.ensure(packet.id, pageIn(what)).catch(console.error);
		if (!what.heard) return json({ version: packet.version });
		return json(await packetNews(db, await packetHeadFor(db, locals, packet.id), what.heard));
	} catch (reason) {
		if (reason instanceof StaleVersionError) {
			return json({ message: reason.message, version: reason.version }, { status: 409 });
		}
		if (reason instanceof ChangeError) return json({ message: reason.message }, { status: 422 });
		throw reason;
	}
};

/** True when every picture that a change puts to use was brought into this packet. */
async function hasPictures(db: Database, packetId: string, change: Change): Promise<boolean> {
	const parts = change.kind === 'together' ? change.changes : [change];
	const wanted = parts.flatMap((part) => (part.kind === 'setPicture' ? [part.picture] : []));
	if (wanted.length === 0) return true;
	const there = await Promise.all(wanted.map((w) => hasPicture(db, packetId, w.source, w.sourcePage)));
	return there.every((is) => is);
}

/** The page a change is about, which is prepared before others. */
function pageIn(what: Command): string | undefined {
	const change = what.kind === 'edit' ? (what.change as Change) : null;
	return change && 'page' in change ? change.page : undefined;
}
