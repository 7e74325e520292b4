import type { TargetName } from '../../core/delivery/targets';
import type { Receipt } from '../store/deliveries';
import type { Signed } from './signer';

/** The other side answered, and its answer is no. Trying again will not help. */
export class RefusedError extends Error {
	constructor(message: string) {
		super(message);
		this.name = 'RefusedError';
	}
}

/** No answer, or one that says to come back later. */
export class UnreachableError extends Error {
	/** @param afterSeconds how long the other side asks to be left alone */
	constructor(
		message: string,
		readonly afterSeconds: number | null = null
	) {
		super(message);
		this.name = 'UnreachableError';
	}
}

/** Everything went out, the answer was lost, and the other side cannot be asked. Sending it again could make a second. */
export class UnsureError extends Error {
	constructor(message: string) {
		super(message);
		this.name = 'UnsureError';
	}
}

/** An assignment as the grading portal knows it. */
export interface PortalAssignment {
	readonly id: string;
	readonly title: string;
	readonly course: string;
	readonly due: string | null;
	/** Minutes after the due time in which it still takes files. */
	readonly grace: number;
	/** Whether what comes after that is refused. */
	readonly strict: boolean;
}

/** One file on its way. */
export interface Submission {
	/** Stays the same however often it is sent. */
	readonly key: string;
	/** Tries before this one: whether it may have arrived already. */
	readonly tries: number;
	readonly student: { readonly name: string; readonly email: string | null };
	/** The packet's own assignment. */
	readonly assignment: PortalAssignment;
	/** What was chosen in the target: an assignment's id, an address; '' where there is nothing to choose. */
	readonly to: string;
	/** With extension. */
	readonly fileName: string;
	readonly type: 'pdf' | 'zip';
	readonly sha256: string;
	readonly bytes: Buffer;
	readonly comment: string;
	/** Receipt of the delivery whose place it takes. */
	readonly replaces: Receipt | null;
	/** That it was handed in, and when. */
	readonly proof: Signed;
}

/** What is to be taken back. */
export interface Recalled extends Pick<Submission, 'key' | 'assignment' | 'fileName' | 'sha256'> {
	readonly receipt: Receipt | null;
	/** Whether everything may have gone out, although nothing was confirmed. */
	readonly mayBeOut: boolean;
}

/** Where a file can be handed in. Every method may be called again after it failed or its answer was lost. */
export interface Target {
	readonly name: TargetName;
	/**
	 * Hands a file in; the same key gives the same receipt.
	 * @param sent called when everything has gone out and only the answer is missing; where it matters, awaited just before
	 * @throws RefusedError, UnreachableError, UnsureError
	 */
	deliver(submission: Submission, sent: () => Promise<void>): Promise<Receipt>;
	/**
	 * Takes back what was handed in, or keeps it from arriving.
	 * @throws RefusedError where it cannot be taken back, UnreachableError
	 */
	recall(recalled: Recalled): Promise<void>;
	/** Whether the other side knows a second for the first; if not, nothing that went out is sent again unasked. */
	readonly knowsKeys: boolean;
	/** `received`: the receipt says that it lies there; `sent`: it was passed on, and nobody confirms its end. */
	readonly confirms: 'received' | 'sent';
}
