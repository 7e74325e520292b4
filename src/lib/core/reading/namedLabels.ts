import type { LabelCandidate } from './labelCandidates';

/** A label as one page by itself says it. */
export interface NamedLabel {
	/** As read. */
	readonly text: string;
	/** "3b". */
	readonly question: string;
	/** Of its upper edge, as a fraction of the page's height. */
	readonly y: number;
	/** 0 to 1. */
	readonly confidence: number;
}

/** Less likely ones are not named. */
const LEAST = 0.5;

/** The labels that surely stand on a page, from the top down; "(b)" behind "3 (a)" is 3b. */
export function namedLabels(candidates: readonly LabelCandidate[]): NamedLabel[] {
	let current = '';
	return candidates.flatMap(({ y, text, options: [best] }): NamedLabel[] => {
		if (!best || best.probability < LEAST) return [];
		current = best.question ?? current;
		return [{ text, question: current + (best.part ?? ''), y, confidence: best.probability }];
	});
}
