import type { LabelOption } from '../reading/labelCandidates';
import type { Answerable } from '../assignment/question';

/** Where a label leads, given where the work is. */
export interface Step {
	readonly rank: number;
	/** The label names a question that has parts, and no part: "Q2". */
	readonly heading: boolean;
}

/**
 * What a label may mean after work on a question: "(b)" is a part of that question, or of the next one when its heading
 * was left out.
 *
 * @param current rank of the work so far; -1 at the start
 * @param afterHeading whether so far only a question with parts was named, and none of them
 */
export function stepOf(
	option: Pick<LabelOption, 'question' | 'part'>,
	ranked: readonly Answerable[],
	current: number,
	afterHeading = false
): Step | null {
	const { question, part } = option;
	if (question !== null) {
		const exact = ranked.findIndex((r) => r.question === question && r.part === part);
		if (exact >= 0) return { rank: exact, heading: false };
		const first = ranked.findIndex((r) => r.question === question);
		// "Question 1 …" over again, with a part that was not read: the next part.
		const following = ranked[current + 1];
		if (part === null && following?.question === question && ranked[current]?.question === question) {
			return { rank: current + 1, heading: false };
		}
		// "3a" where question 3 has no parts is the student's own division of it.
		if (first >= 0) return { rank: first, heading: part === null };
		return null;
	}
	const here = current >= 0 ? ranked[current]!.question : null;
	const same = ranked.findIndex((r) => r.question === here && r.part === part);
	if (same > current || (afterHeading && same >= 0 && same === current))
		return { rank: same, heading: false };
	const next = ranked.findIndex((r, i) => i > current && r.part === part);
	if (next >= 0) return { rank: next, heading: false };
	return same >= 0 ? { rank: same, heading: false } : null;
}

const REPEATED = -1.8;
const SKIPPED = -0.8;
const BACKWARDS = -2.5;
/** A part alone says little of where it belongs, unless the part before it has just been. */
const PART_ALONE = -1;

/**
 * How well what a label means follows on the work so far, in natural logarithms.
 *
 * @param current rank of the work so far; -1 at the start
 * @param heading whether so far only a question with parts was named, and none of them
 */
export function transitionScore(
	{ question }: Pick<LabelOption, 'question'>,
	current: number,
	heading: boolean,
	to: Step
): number {
	const gap = to.rank - current;
	if (gap === 1) return 0;
	// The first part of a question that was just named begins nothing new.
	if (gap === 0 && heading && !to.heading) return 0;
	const alone = question === null ? PART_ALONE : 0;
	if (gap === 0) return REPEATED + alone;
	return (gap > 1 ? SKIPPED - 0.2 * Math.min(gap - 2, 6) : BACKWARDS) + alone;
}

/** Whether anything in the assignment answers to a label. */
export function isOwn(option: Pick<LabelOption, 'question'>, ranked: readonly Answerable[]): boolean {
	return option.question === null || ranked.some((r) => r.question === option.question);
}
