import type { Answerable } from '../assignment/question';

/** Words before a number: "Question 3", "Ex. 3". */
const WORD = /^(question|quest|qu|qn|q|exercise|ex|task|problem|answer|ans|no|nr)(?=\d)/;

/**
 * The question that a person means by what they type: "3b", "Q3 (b)", "3.b".
 *
 * @returns its id; null where the rule sheet has none like it
 */
export function questionSaid(text: string, questions: readonly Answerable[]): string | null {
	const plain = text.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');
	const said = [plain, plain.replace(WORD, '')];
	return questions.find((q) => said.includes(q.id.toLowerCase()))?.id ?? null;
}
