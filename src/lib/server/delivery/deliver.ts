import { readFile } from 'node:fs/promises';
import { levelOf } from '../../core/rules/ruleSheet';
import type { House } from '../house';
import { assignmentById, type Assignment } from '../store/assignments';
import {
	claimDelivery,
	countTry,
	deliveryById,
	isOpen,
	letGo,
	noteSent,
	settleDelivery,
	type DeliveryRow
} from '../store/deliveries';
import { packetById } from '../store/packets';
import { personById } from '../store/people';
import { RefusedError, UnreachableError, type Parcel, type PortalAssignment } from './target';

/** Seconds until somebody else's claim is looked at again. */
const CLAIMED = 5;

/** Seconds until the next try: 1, 2, 4 … up to half a minute, or as long as the other side asks for, up to a minute. */
export function patience(tries: number, asked: number | null): number {
	return Math.max(Math.min(30, 2 ** tries), Math.min(60, asked ?? 0));
}

/**
 * Tries once to bring a delivery, or a recall, to its end.
 * @returns seconds until it should be tried again; null when it is settled
 */
export async function attemptDelivery(
	house: Pick<House, 'db' | 'vault' | 'targets'>,
	id: string
): Promise<number | null> {
	const { db } = house;
	const delivery = await claimDelivery(db, id);
	if (!delivery) return (await isOpen(db, id)) ? CLAIMED : null;
	try {
		if (delivery.state === 'recalling') await recall(house, delivery);
		else await send(house, delivery);
	} catch (error) {
		if (error instanceof RefusedError) {
			// What cannot be taken back stays received; what was only on its way stays refused.
			const to = delivery.state === 'recalling' && delivery.receipt ? 'received' : 'refused';
			await settleDelivery(db, id, delivery.state, to, { problem: error.message });
		} else {
			const known = error instanceof UnreachableError;
			if (!known) console.error(error);
			const seconds = patience(delivery.tries, known ? error.afterSeconds : null);
			await countTry(db, id, known ? error.message : 'Membrana had trouble sending it.', seconds);
			return seconds;
		}
	}
	// Called off while it was being sent: the recall is next.
	await letGo(db, id);
	return (await isOpen(db, id)) ? 0 : null;
}

async function send(house: Pick<House, 'db' | 'vault' | 'targets'>, delivery: DeliveryRow): Promise<void> {
	const { db, vault, targets } = house;
	const target = targets[delivery.target];
	if (!target) throw new RefusedError('This way of handing in is not set up here any more.');
	const packet = (await packetById(db, delivery.packetId))!;
	const assignment = (await assignmentById(db, packet.assignmentId))!;
	const owner = (await personById(db, packet.personId))!;
	const before = delivery.replaces ? await deliveryById(db, delivery.replaces) : null;
	const parcel: Parcel = {
		key: delivery.idempotencyKey,
		tries: delivery.tries,
		student: { name: `${owner.given} ${owner.family}`, email: owner.email },
		assignment: portalAssignment(assignment),
		to: delivery.destination.to || assignment.id,
		fileName: `${delivery.fileName}.${delivery.type}`,
		type: delivery.type,
		sha256: delivery.sha256,
		bytes: await readFile(vault.pathOf(delivery.sha256)),
		comment: delivery.comment,
		replaces: before?.receipt?.number ?? null
	};
	const noted: Promise<void>[] = [];
	const receipt = await target
		.deliver(parcel, () => noted.push(noteSent(db, delivery.id)))
		.finally(() => Promise.all(noted));
	await settleDelivery(db, delivery.id, 'sending', target.confirms, { receipt });
}

async function recall({ db, targets }: Pick<House, 'db' | 'targets'>, delivery: DeliveryRow): Promise<void> {
	const target = targets[delivery.target];
	if (!target) throw new RefusedError('This way of handing in is not set up here any more.');
	await target.recall(delivery.idempotencyKey, delivery.receipt);
	await settleDelivery(db, delivery.id, 'recalling', 'recalled');
}

/** What the portal is told of an assignment. */
export function portalAssignment({ id, courseCode, ruleSheet }: Assignment): PortalAssignment {
	return {
		id,
		title: ruleSheet.title,
		course: courseCode,
		due: ruleSheet.due ?? null,
		grace: ruleSheet.grace ?? 0,
		strict: levelOf(ruleSheet, 'due') === 'blocks'
	};
}
