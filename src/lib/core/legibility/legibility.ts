/** Why writing is hard to read. */
export type LegibilityReason =
	| 'blur'
	| 'motion'
	| 'low-contrast'
	| 'low-resolution'
	| 'compression'
	| 'glare'
	| 'shadow'
	| 'cut-off'
	| 'show-through'
	| 'faint-marks'
	| 'lost-strokes'
	| 'no-writing';

export const VERDICTS = ['unreadable', 'doubtful', 'clear'] as const;
export type Verdict = (typeof VERDICTS)[number];

/** How readable a page is. */
export interface Legibility {
	/** 0 to 1. */
	readonly score: number;
	readonly verdict: Verdict;
	/** What the score would be in a tone that keeps greys; absent where black and white loses nothing. */
	readonly inGreys?: number;
	readonly reasons: readonly LegibilityReason[];
	/** Score of each of PROFILE_ROWS equal bands from the top down; -1 where there is no writing. */
	readonly profile: readonly number[];
	/** The share of the page's writing in each of these bands, adding up to 1; absent where it was not kept. */
	readonly share?: readonly number[];
	/** Where the writing is weak, the worst first. */
	readonly places: readonly WeakPlace[];
	/** Share of the letters that the reader probably read right; absent while nothing was read. */
	readonly readRight?: number;
}

/** A part of a page that is hard to read, and why. Sides are fractions of the page's width and height. */
export interface WeakPlace {
	readonly left: number;
	readonly top: number;
	readonly right: number;
	readonly bottom: number;
	readonly score: number;
	readonly reason: LegibilityReason;
}

export const PROFILE_ROWS = 28;

/** Under this score a page cannot be graded; from CLEAR on nobody would complain. */
export const UNREADABLE = 0.22;
export const CLEAR = 0.75;

/** A score as it is kept and printed. */
export const rounded = (score: number) => Math.round(score * 1000) / 1000;

export function verdictOf(score: number): Verdict {
	return score < UNREADABLE ? 'unreadable' : score < CLEAR ? 'doubtful' : 'clear';
}
