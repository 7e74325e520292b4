/** One question of an assignment as the teacher writes it. */
export interface Question {
	/** "1", "2" …: what students write beside their answer, without "Q" or brackets. */
	readonly label: string;
	readonly marks?: number;
	/** The answer has to begin at the top of a page of its own. */
	readonly newPage?: boolean;
	readonly parts?: readonly Part[];
}

export interface Part {
	/** "a", "b" … */
	readonly label: string;
	readonly marks?: number;
}

/** Something that can be answered: a part, or a question without parts. */
export interface Answerable {
	/** Normalised: the question's label, then the part's, lower case: "2a". */
	readonly id: string;
	/** Normalised label of the question it belongs to: "2". */
	readonly question: string;
	/** "a"; null for a question without parts. */
	readonly part: string | null;
	readonly marks: number | null;
	readonly newPage: boolean;
}

export function questionId(question: string, part = ''): string {
	return (question + part).toLowerCase().replace(/[\s().]/g, '');
}

/** Everything that can be answered, in the assignment's order. */
export function answerables(questions: readonly Question[]): Answerable[] {
	return questions.flatMap((q): Answerable[] => {
		const question = questionId(q.label);
		const newPage = q.newPage ?? false;
		if (!q.parts?.length) return [{ id: question, question, part: null, marks: q.marks ?? null, newPage }];
		return q.parts.map((part, i) => ({
			id: questionId(q.label, part.label),
			question,
			part: questionId(part.label),
			marks: part.marks ?? null,
			newPage: newPage && i === 0
		}));
	});
}
