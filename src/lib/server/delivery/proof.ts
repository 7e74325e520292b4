import type { Assignment } from '../store/assignments';
import type { DeliveryRow } from '../store/deliveries';
import type { Signed, Signer } from './signer';

/** What the server vouches for: that this file was handed in, here, at this time, whatever came after. */
export interface HandInStatement {
	readonly membranaProof: 1;
	readonly delivery: string;
	readonly packet: string;
	readonly assignment: string;
	readonly course: string;
	/** Where it was to go: the portal's assignment, a person, a folder. */
	readonly to: string;
	readonly file: string;
	readonly bytes: number;
	readonly sha256: string;
	/** ISO 8601 in UTC, by the server's clock. */
	readonly handedInAt: string;
	/** Until when it was due for this person, where they had been given more time than others. */
	readonly due?: string;
}

/**
 * The proof of a hand-in. It says the same whenever it is asked for, but for the title of an assignment that was renamed.
 * @param assignment that the packet answers
 */
export function proofOf(
	delivery: DeliveryRow,
	assignment: Pick<Assignment, 'courseCode' | 'ruleSheet'>,
	signer: Signer
): Signed {
	const statement: HandInStatement = {
		membranaProof: 1,
		delivery: delivery.id,
		packet: delivery.packetId,
		assignment: assignment.ruleSheet.title,
		course: assignment.courseCode,
		to: `${delivery.target}: ${delivery.destination.title}`,
		file: `${delivery.fileName}.${delivery.type}`,
		bytes: delivery.bytes,
		sha256: delivery.sha256,
		handedInAt: new Date(delivery.handedInAt).toISOString(),
		...(delivery.due ? { due: new Date(delivery.due).toISOString() } : {})
	};
	return signer.sign(JSON.stringify(statement));
}
