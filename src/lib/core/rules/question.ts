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
	readonly marks: number | null;
	readonly newPage: boolean;
}

export function questionId(question: string, part = ''): string {
	return (question + part).toLowerCase().replace(/[\s().]/g, '');
}

/** Everything that can be answered, in the assignment's order. */
export function answerables(questions: readonly Question[]): Answerable[] {
	return questions.flatMap((q): Answerable[] => {
		if (!q.parts?.length) {
			return [{ id: questionId(q.label), marks: q.marks ?? null, newPage: q.newPage ?? false }];
		}
		return q.parts.map((part, i) => ({
			id: questionId(q.label, part.label),
			marks: part.marks ?? null,
			newPage: (q.newPage ?? false) && i === 0
		}));
	});
}
