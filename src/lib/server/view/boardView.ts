import type { BoardView } from '../../core/board/board';
import { answerables } from '../../core/assignment/question';
import type { Assignment } from '../store/assignments';
import { boardRows } from '../store/board';
import type { Database } from '../store/database';

/** What a teacher's board shows. */
export async function boardView(db: Database, { id, ruleSheet }: Assignment): Promise<BoardView> {
	return {
		id,
		now: Date.now(),
		due: ruleSheet.due ?? null,
		grace: ruleSheet.grace ?? 0,
		questions: answerables(ruleSheet.questions).map((q) => q.id),
		students: await boardRows(db, id)
	};
}
