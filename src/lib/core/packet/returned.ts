import type { RuleName } from '../rules/ruleSheet';

/** Why a packet is given back. */
export interface ReturnReason {
	/** A sentence: a finding's own, or the teacher's words. */
	readonly text: string;
	/** The rule whose finding it was. */
	readonly rule?: RuleName;
	/** The page it is about. */
	readonly page?: string;
}

/** A packet that was given back to its student. */
export interface PacketReturn {
	readonly id: string;
	/** Of the packet, when it was given back. */
	readonly version: number;
	readonly reasons: readonly ReturnReason[];
	readonly words: string;
	/** Who gave it back. */
	readonly by: string;
	/** ISO 8601. */
	readonly at: string;
	/** It waits for its student: nothing was handed in after it, and it was not taken back. */
	readonly stands: boolean;
	readonly takenBackAt: string | null;
}

/** How much a return may say. */
export const RETURN_LIMITS = { reasons: 30, reason: 400, words: 2000 } as const;
