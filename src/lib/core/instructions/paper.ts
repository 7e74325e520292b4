import type { Part, Question } from '../assignment/question';
import { proposal, type ProposalOf, type Span } from './proposal';

interface Found {
	readonly label: string;
	marks?: number;
	newPage?: boolean;
	readonly parts: { label: string; marks?: number }[];
}

/** "Question 3", "Q3.", "3.", "3)", "3 The …"; what stands behind it is kept. */
const QUESTION =
	/^\s*(?:(?:question|problem|exercise|task|q)\.?\s*(\d{1,2})\b[.):]?|(\d{1,2})(?:[.)](?!\d)|(?=\s*\([a-z]\))|(?=\s+\p{Lu}\p{Ll}+ \p{Ll})))\s*/iu;
const PART = /^\s*(?:\(([a-z])\)|([a-z])\))\s*/i;
const UNITS = 'marks?|points?|pts?\\.?|credits?';
/** "[6 marks]", "(3 points)", "12 pts"; a bare number in brackets only at the end of a line. */
const MARKS = new RegExp(
	`[[(]\\s*(\\d{1,3})\\s*(?:${UNITS})\\s*[\\])]|\\b(\\d{1,3})\\s+(?:${UNITS})\\b|[[(]\\s*(\\d{1,3})\\s*[\\])]\\s*$`,
	'iu'
);
const TOTAL = /\btotal\b/i;
const NEW_PAGE = /\b(?:new|fresh|separate) (?:page|sheet)\b/i;

/**
 * The questions of a question paper, with parts and marks, told by how its lines begin. Numbers go up one by one and
 * letters from a on: what does not fit is part of a question's text.
 *
 * @returns null where there are not at least two questions, or one with parts or marks
 */
export function paperQuestions(text: string): ProposalOf<'questions'> | null {
	const questions: Found[] = [];
	const spans: Span[] = [];
	let gaps = false;
	let at = 0;
	for (const line of text.split('\n')) {
		const from = at;
		at += line.length + 1;
		let rest = line;
		let current: Found | Found['parts'][number] | undefined =
			questions.at(-1)?.parts.at(-1) ?? questions.at(-1);
		const question = QUESTION.exec(line);
		const number = Number(question?.[1] ?? question?.[2]);
		const last = Number(questions.at(-1)?.label ?? 0);
		// One number that was not read leaves a gap; more than one is no paper's numbering.
		if (question && (number === last + 1 || (number === last + 2 && last > 0))) {
			gaps ||= number !== last + 1;
			const one: Found = { label: String(number), parts: [] };
			questions.push(one);
			current = one;
			rest = line.slice(question[0].length);
			spans.push({
				from: from + (line.length - line.trimStart().length),
				to: from + question[0].trimEnd().length
			});
		}
		const part = questions.length > 0 ? PART.exec(rest) : null;
		const letter = (part?.[1] ?? part?.[2])?.toLowerCase();
		const here = questions.at(-1)?.parts;
		if (part && here && letter === String.fromCharCode(97 + here.length)) {
			const one = { label: letter };
			here.push(one);
			current = one;
			const start = from + line.length - rest.length;
			spans.push({
				from: start + (rest.length - rest.trimStart().length),
				to: start + part[0].trimEnd().length
			});
			rest = rest.slice(part[0].length);
		}
		if (!current) continue;
		const marks = TOTAL.test(rest) ? null : MARKS.exec(rest);
		if (marks && current.marks === undefined) {
			current.marks = Number(marks[1] ?? marks[2] ?? marks[3]);
			const start = from + line.length - rest.length + marks.index;
			spans.push({ from: start, to: start + marks[0].trimEnd().length });
		}
		if (NEW_PAGE.test(rest)) questions.at(-1)!.newPage = true;
	}
	const hasMore = questions.some((q) => q.parts.length > 0 || q.marks !== undefined);
	if (questions.length === 0 || !hasMore) return null;
	return proposal('questions', questions.map(asQuestion), spans, !gaps);
}

/** Marks of a question with parts are those of its parts. */
function asQuestion({ label, marks, newPage, parts }: Found): Question {
	return {
		label,
		...(parts.length === 0 && marks !== undefined && { marks }),
		...(newPage && { newPage }),
		// One part alone is a misread letter, or a list in the text.
		...(parts.length > 1 && { parts: parts as Part[] })
	};
}
