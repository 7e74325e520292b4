import { readFile } from 'node:fs/promises';
import { formatDuration } from '../../core/rules/dueTime';
import { levelOf } from '../../core/rules/ruleSheet';
import type { Services } from '../services/services';
import { assignmentById, ruleSheetOf, type Assignment } from '../store/assignments';
import {
	claimDelivery,
	recordAttempt,
	deliveryById,
	isOpen,
	releaseClaim,
	noteSent,
	settleDelivery,
	type DeliveryRow
} from '../store/deliveries';
import { packetById } from '../store/packets';
import { personById } from '../store/people';
import { proofOf } from './proof';
import {
	RefusedError,
	UnreachableError,
	UnsureError,
	type Submission,
	type PortalAssignment
} from './target';

/** What sending needs of the services. */
type Sends = Pick<Services, 'db' | 'vault' | 'targets' | 'signer'>;

/** Seconds until somebody else's claim is looked at again. */
const CLAIMED = 5;

/** Seconds until the next try: 1, 2, 4 … up to half a minute, or as long as the other side asks for, up to a minute. */
export function backoff(tries: number, asked: number | null): number {
	return Math.max(Math.min(30, 2 ** tries), Math.min(60, asked ?? 0));
}

/**
 * Tries once to bring a delivery, or a recall, to its end.
 * @returns seconds until it should be tried again; null when it is settled
 */
export async function attemptDelivery(services: Sends, id: string): Promise<number | null> {
	const { db } = services;
	const delivery = await claimDelivery(db, id);
	if (!delivery) return (await isOpen(db, id)) ? CLAIMED : null;
	try {
		if (delivery.state === 'recalling') await recall(services, delivery);
		else await send(services, delivery);
	} catch (error) {
		if (error instanceof RefusedError) {
			const isRecall = delivery.state === 'recalling';
			// What cannot be taken back stays what it was; where nothing had gone out, nothing is there.
			const kept = delivery.receipt ? 'received' : delivery.sentAt ? 'unsure' : 'refused';
			const to = isRecall ? kept : 'refused';
			const problem = isRecall ? error.message : await withProof(services, delivery, error);
			await settleDelivery(db, id, delivery.state, to, { problem });
		} else if (error instanceof UnsureError) {
			await settleDelivery(db, id, delivery.state, 'unsure', { problem: error.message });
		} else {
			const known = error instanceof UnreachableError;
			if (!known) console.error(error);
			const seconds = backoff(delivery.tries, known ? error.afterSeconds : null);
			const problem = known ? error.message : 'Membrana had trouble sending it.';
			// A side that does not know keys says when it is unsure: otherwise nothing arrived.
			const nothingOut = known && services.targets[delivery.target]?.knowsKeys === false;
			await recordAttempt(db, id, { problem, seconds, nothingOut });
			return seconds;
		}
	}
	// Called off while it was being sent: the recall is next.
	await releaseClaim(db, id);
	return (await isOpen(db, id)) ? 0 : null;
}

async function send(services: Sends, delivery: DeliveryRow): Promise<void> {
	const { db, vault, targets, signer } = services;
	const target = targets[delivery.target];
	if (!target) throw new RefusedError('This way of handing in is not set up here any more.');
	if (delivery.sentAt && !target.knowsKeys) {
		throw new UnsureError('It went out, and the answer was lost. It has probably arrived.');
	}
	const packet = (await packetById(db, delivery.packetId))!;
	const assignment = (await assignmentById(db, packet.assignmentId))!;
	const owner = (await personById(db, packet.personId))!;
	const before = delivery.replaces ? await deliveryById(db, delivery.replaces) : null;
	const submission: Submission = {
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
		replaces: before?.receipt ?? null,
		proof: proofOf(delivery, assignment, signer)
	};
	const noted: Promise<void>[] = [];
	const sent = () => {
		const note = noteSent(db, delivery.id);
		noted.push(note);
		return note;
	};
	const receipt = await target.deliver(submission, sent).finally(() => Promise.all(noted));
	await settleDelivery(db, delivery.id, 'sending', target.confirms, { receipt });
}

async function recall({ db, targets }: Sends, delivery: DeliveryRow): Promise<void> {
	const target = targets[delivery.target];
	if (!target) throw new RefusedError('This way of handing in is not set up here any more.');
	const packet = (await packetById(db, delivery.packetId))!;
	await target.recall({
		key: delivery.idempotencyKey,
		assignment: portalAssignment((await assignmentById(db, packet.assignmentId))!),
		fileName: `${delivery.fileName}.${delivery.type}`,
		sha256: delivery.sha256,
		receipt: delivery.receipt,
		mayBeOut: delivery.sentAt !== null
	});
	await settleDelivery(db, delivery.id, 'recalling', 'recalled');
}

/** Of what was handed in before it was due and refused after: that this can be proved, and how. */
async function withProof({ db }: Sends, delivery: DeliveryRow, error: RefusedError): Promise<string> {
	const packet = (await packetById(db, delivery.packetId))!;
	const { due } = ruleSheetOf((await assignmentById(db, packet.assignmentId))!, packet);
	const before = due ? Date.parse(due) - Date.parse(delivery.handedInAt) : 0;
	if (before <= 0 || Date.now() < Date.parse(due!)) return error.message;
	return `${error.message} It was handed in here ${formatDuration(before)} before it was due: save the proof of that and show it to your teacher.`;
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
