/** Why writing is hard to read. */
export type LegibilityReason =
	'blur' | 'low-contrast' | 'low-resolution' | 'glare' | 'shadow' | 'cut-off' | 'show-through';

export const VERDICTS = ['unreadable', 'doubtful', 'clear'] as const;
export type Verdict = (typeof VERDICTS)[number];

/** How readable a page is. */
export interface Legibility {
	/** 0 to 1. */
	readonly score: number;
	readonly verdict: Verdict;
	readonly reasons: readonly LegibilityReason[];
	/** Score of each of PROFILE_ROWS equal bands from the top down; -1 where there is no writing. */
	readonly profile: readonly number[];
}

export const PROFILE_ROWS = 28;

/** Under this score a page cannot be graded; from CLEAR on nobody would complain. */
export const UNREADABLE = 0.3;
export const CLEAR = 0.6;

export function verdictOf(score: number): Verdict {
	return score < UNREADABLE ? 'unreadable' : score < CLEAR ? 'doubtful' : 'clear';
}
