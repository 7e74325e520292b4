import { TARGET_KINDS } from '../../core/delivery/targets';
import { formatDue, formatDuration, zoneOffset } from '../../core/rules/dueTime';
import { plural } from '../../core/rules/finding';
import { formatBytes } from '../../core/rules/formatBytes';
import type { PacketAccess } from '../access/access';
import type { ReceiptText } from '../codec/receiptPdf';
import type { DeliveryRow } from '../store/deliveries';

/** A moment in the zone of the due time where there is one, so that both can be compared at a glance. */
function moment(iso: string, due: string | undefined): string {
	const zone = /(Z|[+-]\d\d:\d\d)$/.exec(due ?? '')?.[1] ?? 'Z';
	const local = new Date(Date.parse(iso) + zoneOffset(zone) * 60_000).toISOString();
	return `${local.slice(0, 10)} ${local.slice(11, 19)} (UTC${zone === 'Z' ? '' : zone})`;
}

/** What a receipt says. @throws RangeError when there is none yet */
export function receiptText({
	delivery,
	assignment,
	owner
}: PacketAccess & { delivery: DeliveryRow }): ReceiptText {
	const { receipt, destination } = delivery;
	if (!receipt) throw new RangeError('This has not been received.');
	const { due } = assignment.ruleSheet;
	const { hasAssignments, onReceipt } = TARGET_KINDS[delivery.target];
	const late = due ? Date.parse(receipt.receivedAt) - Date.parse(due) : 0;
	const lines: (readonly [string, string])[] = [
		['Receipt', receipt.number],
		[delivery.state === 'sent' ? 'Passed on' : 'Received', moment(receipt.receivedAt, due)],
		...(due
			? [['Due', `${formatDue(due)}${late > 0 ? `, ${formatDuration(late)} late` : ', in time'}`] as const]
			: []),
		['Of', `${owner.given} ${owner.family}`],
		[
			'For',
			hasAssignments
				? `${destination.title}, ${destination.course}`
				: `${assignment.ruleSheet.title}, ${assignment.courseCode}`
		],
		...(destination.title === assignment.ruleSheet.title || !hasAssignments
			? []
			: [
					[
						'Answers',
						`${assignment.ruleSheet.title}, ${assignment.courseCode} ${assignment.courseTitle}`
					] as const
				]),
		['Through', onReceipt(destination)],
		[
			'File',
			`${delivery.fileName}.${delivery.type}, ${plural(delivery.pages, 'page')}, ${formatBytes(receipt.bytes)} (${receipt.bytes} bytes)`
		],
		['SHA-256', receipt.sha256],
		['Handed in by', `${delivery.by}, ${moment(delivery.handedInAt, due)}`],
		...(delivery.comment ? [['Comment', delivery.comment] as const] : [])
	];
	const state = {
		recalled: 'It has been recalled since.',
		replaced: 'A later version has taken its place since.'
	}[delivery.state as string];
	return {
		title: delivery.state === 'sent' ? 'Passed on' : receipt.late ? 'Received, late' : 'Received',
		lines,
		footer: `The number and the SHA-256 are those that the other side confirmed. Whoever has the file can work its SHA-256 out and compare.${state ? ` ${state}` : ''}`,
		created: new Date(receipt.receivedAt)
	};
}
