import type { LabelOption } from '../reading/labelCandidates';
import { answerables, questionId, type Question } from '../rules/question';

/** A question or part in the assignment's order, with what labels may call it. */
export interface Ranked {
	readonly id: string;
	/** The question it belongs to: "2". */
	readonly question: string;
	/** "a"; null for a question without parts. */
	readonly part: string | null;
	readonly newPage: boolean;
}

export function rankedQuestions(questions: readonly Question[]): Ranked[] {
	const ranked = questions.flatMap((q): Omit<Ranked, 'newPage'>[] => {
		const question = questionId(q.label);
		if (!q.parts?.length) return [{ id: question, question, part: null }];
		return q.parts.map((p) => ({ id: questionId(q.label, p.label), question, part: questionId(p.label) }));
	});
	const all = answerables(questions);
	return ranked.map((r, i) => ({ ...r, newPage: all[i]!.newPage }));
}

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
	ranked: readonly Ranked[],
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

/** How well one question follows on another, in natural logarithms. */
export function followCost(from: number, to: Step, samePartOfHeading: boolean): number {
	const gap = to.rank - from;
	if (gap === 0) return samePartOfHeading ? 0 : REPEATED;
	if (gap === 1) return 0;
	if (gap > 1) return SKIPPED - 0.2 * Math.min(gap - 2, 6);
	return BACKWARDS;
}

const REPEATED = -1.8;
const SKIPPED = -0.8;
const BACKWARDS = -2.5;

/** Whether anything in the assignment answers to a label. */
export function isOwn(option: Pick<LabelOption, 'question'>, ranked: readonly Ranked[]): boolean {
	return option.question === null || ranked.some((r) => r.question === option.question);
}
