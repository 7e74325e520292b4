import { RULE_TITLES } from '../check/check';
import { cellOf, isLate, standingOf, type BoardView, type Standing } from './board';
import type { CellState } from './summarise';

/** What a standing is called. */
export const STANDING_WORDS: Readonly<Record<Standing, string>> = {
	none: 'Not begun',
	checking: 'Being checked',
	blocked: 'Blocked',
	ready: 'Ready',
	returned: 'Given back',
	'on-its-way': 'On its way',
	'handed-in': 'Handed in'
};

/** What the state of a cell is called. */
export const CELL_WORDS: Readonly<Record<CellState, string>> = {
	blocks: 'blocks',
	look: 'to look at',
	open: 'not known yet',
	absent: 'not there',
	skipped: 'not attempted',
	clear: 'clear'
};

/** A board as a table, a row for each student (docs/formats.md). */
export function boardTable(board: BoardView): Record<string, string | number>[] {
	return board.students.map((student) => ({
		Family: student.family,
		Given: student.given,
		State: STANDING_WORDS[standingOf(student)],
		Pages: student.pages,
		'Handed in': student.handedInAt ?? '',
		Late: isLate(board, student) ? 'yes' : 'no',
		'More time until': student.moreTime ?? '',
		...Object.fromEntries(
			board.questions.map((question) => {
				const { state, pages } = cellOf(student, question);
				const where = pages.length > 0 ? ` (p. ${pages.join(', ')})` : '';
				return [`Question ${question}`, `${CELL_WORDS[state]}${where}`];
			})
		),
		Findings: (student.summary?.open ?? []).map((f) => `${RULE_TITLES[f.rule]}: ${f.message}`).join(' ')
	}));
}
