import type { Question } from '../assignment/question';
import type { RuleSheet } from '../rules/ruleSheet';
import type { Proposal } from './proposal';

/** A rule sheet with what was taken out of instructions; what was not named stays as it was. */
export function sheetWith(sheet: RuleSheet, proposals: readonly Proposal[]): RuleSheet {
	return proposals.reduce(withOne, sheet);
}

function withOne(sheet: RuleSheet, { kind, value }: Proposal): RuleSheet {
	switch (kind) {
		case 'title':
		case 'course':
		case 'due':
		case 'grace':
		case 'tone':
			return { ...sheet, [kind]: value };
		case 'pages':
			return { ...sheet, pages: { ...(sheet.pages?.size && { size: sheet.pages.size }), ...value } };
		case 'paper':
			return { ...sheet, pages: { ...sheet.pages, size: value } };
		case 'type':
			return { ...sheet, file: { ...sheet.file, type: value } };
		case 'maxBytes':
			return { ...sheet, file: { ...sheet.file, maxBytes: value } };
		case 'namePattern':
			return { ...sheet, file: { ...sheet.file, namePattern: value } };
		case 'questions':
			return { ...sheet, questions: value };
		case 'newPage':
			return { ...sheet, questions: onNewPages(sheet.questions, value) };
	}
}

function onNewPages(questions: readonly Question[], labels: readonly string[] | 'every'): Question[] {
	return questions.map((question) =>
		labels === 'every' || labels.includes(question.label) ? { ...question, newPage: true } : question
	);
}
