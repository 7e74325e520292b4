import type { CellState, PacketSummary, QuestionCell } from './summarise';

/** One student of a class, with all that a board shows of their packet. */
export interface BoardStudent {
	readonly id: string;
	readonly given: string;
	readonly family: string;
	readonly hasMail: boolean;
	readonly packetId: string | null;
	/** Of the packet. */
	readonly version: number;
	readonly pages: number;
	/** When something was last done to it. */
	readonly updatedAt: string | null;
	/** What was worked out of it; null where it was not checked yet. */
	readonly summary: PacketSummary | null;
	/** Whether nothing has changed since that was worked out. */
	readonly fresh: boolean;
	/** The last delivery that was received and still stands. */
	readonly handedInAt: string | null;
	/** Whether the packet was changed after that. */
	readonly changedSince: boolean;
	/** A delivery is on its way. */
	readonly onItsWay: boolean;
	/** When it was given back, where that still stands. */
	readonly returnedAt: string | null;
	/** When it is due for them, where they were given more time. */
	readonly moreTime: string | null;
}

export interface BoardView {
	/** Of the assignment. */
	readonly id: string;
	/** The server's clock, milliseconds since 1970. */
	readonly now: number;
	readonly due: string | null;
	/** Minutes. */
	readonly grace: number;
	/** Everything that can be answered, in order. */
	readonly questions: readonly string[];
	readonly students: readonly BoardStudent[];
}

/**
 * How far a packet has come: `returned` waits for its student; `ready` has nothing that blocks; `checking` is not known
 * yet.
 */
export const STANDINGS = [
	'none',
	'checking',
	'blocked',
	'ready',
	'returned',
	'on-its-way',
	'handed-in'
] as const;
export type Standing = (typeof STANDINGS)[number];

export function standingOf(student: BoardStudent): Standing {
	if (student.returnedAt) return 'returned';
	if (student.onItsWay) return 'on-its-way';
	if (student.handedInAt) return 'handed-in';
	if (student.pages === 0) return 'none';
	if (!student.summary || !student.fresh) return 'checking';
	return student.summary.open.some((f) => f.level === 'blocks') ? 'blocked' : 'ready';
}

/** When it is due for one student; milliseconds since 1970, null without a due time. */
export function dueOf({ due }: Pick<BoardView, 'due'>, { moreTime }: BoardStudent): number | null {
	const at = moreTime ?? due;
	return at ? Date.parse(at) : null;
}

/** Whether somebody handed in after it was due for them, or has not and it is past. */
export function isLate(board: Pick<BoardView, 'due' | 'now'>, student: BoardStudent): boolean {
	const due = dueOf(board, student);
	if (due === null) return false;
	return (student.handedInAt ? Date.parse(student.handedInAt) : board.now) > due;
}

/** The cell of a question; `absent` where there is no packet, `open` where it was not checked yet. */
export function cellOf({ summary, pages }: BoardStudent, question: string): QuestionCell {
	const none = { question, pages: [], page: null, verdict: null };
	const state: CellState = pages > 0 ? 'open' : 'absent';
	return summary?.cells.find((c) => c.question === question) ?? { ...none, state };
}

/** Whether questions were found on the pages of a packet that nobody has placed there yet. */
export function waitsForPlacing(student: BoardStudent): boolean {
	const { summary, handedInAt, onItsWay, returnedAt } = student;
	// While more is read, what was found before stands already.
	if (!summary || handedInAt || onItsWay || returnedAt) return false;
	return summary.cells.some((c) => c.state === 'open' && c.pages.length > 0);
}

/** What a teacher can do next for several at once, and for whom: place what was read, hand in what is ready. */
export function nextForClass(
	students: readonly BoardStudent[]
): Readonly<Record<'place' | 'handIn', readonly string[]>> {
	const ids = (fit: (student: BoardStudent) => boolean) => students.filter(fit).map((s) => s.id);
	return { place: ids(waitsForPlacing), handIn: ids((s) => standingOf(s) === 'ready') };
}

/** Which students are shown. */
export interface BoardFilter {
	/** Words of the name. */
	readonly words: string;
	readonly standing: Standing | 'late' | 'any';
	/** Only those whose answer to a question reads badly. */
	readonly unreadable: string | null;
}

export function fits(board: BoardView, student: BoardStudent, filter: BoardFilter): boolean {
	const name = `${student.given} ${student.family}`.toLowerCase();
	const words = filter.words.trim().toLowerCase().split(/\s+/);
	if (!words.every((w) => name.includes(w))) return false;
	if (filter.unreadable !== null) {
		const { verdict } = cellOf(student, filter.unreadable);
		if (verdict === null || verdict === 'clear') return false;
	}
	switch (filter.standing) {
		case 'any':
			return true;
		case 'late':
			return isLate(board, student);
		default:
			return standingOf(student) === filter.standing;
	}
}

export type BoardSort = 'name' | 'standing' | 'pages' | 'changed';

/** Students in the order that is asked for; those alike by name. */
export function sorted(students: readonly BoardStudent[], by: BoardSort, down: boolean): BoardStudent[] {
	const value = (s: BoardStudent): number => {
		switch (by) {
			case 'name':
				return 0;
			case 'standing':
				return STANDINGS.indexOf(standingOf(s));
			case 'pages':
				return s.pages;
			case 'changed':
				return s.updatedAt ? Date.parse(s.updatedAt) : 0;
		}
	};
	const name = (s: BoardStudent) => `${s.family}\n${s.given}`;
	return [...students].sort((a, b) => {
		const order = value(a) - value(b);
		if (order !== 0) return down ? -order : order;
		const byName = name(a).localeCompare(name(b));
		return down && by === 'name' ? -byName : byName;
	});
}

/** For each question, how many answers read how well; those that are not known are left out. */
export function legibilityByQuestion({ questions, students }: BoardView) {
	return questions.map((question) => {
		const counts = { question, clear: 0, doubtful: 0, unreadable: 0 };
		for (const student of students) {
			const { verdict } = cellOf(student, question);
			if (verdict) counts[verdict]++;
		}
		return counts;
	});
}

/** Questions that read badly for a third of those who answered them or more, with how many of how many. */
export function oftenUnreadable(board: BoardView): { question: string; bad: number; of: number }[] {
	return legibilityByQuestion(board).flatMap(({ question, clear, doubtful, unreadable }) => {
		const of = clear + doubtful + unreadable;
		const bad = doubtful + unreadable;
		return of >= 3 && 3 * bad >= of ? [{ question, bad, of }] : [];
	});
}
