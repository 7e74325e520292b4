export type RosterRole = 'teacher' | 'student';

/** A person as a roster names them. */
export interface RosterEntry {
	/** What the entry is told by within one file. */
	readonly key: string;
	/** The school's own number or name for the person; null where the roster has none. */
	readonly identifier: string | null;
	readonly given: string;
	readonly family: string;
	readonly email: string | null;
	/** Wanted sign-in name. */
	readonly login: string | null;
}

export interface RosterCourse {
	readonly identifier: string;
	readonly code: string;
	readonly title: string;
}

/** Somebody's place in a course; `course` and `person` are an identifier and a key of the same roster. */
export interface RosterPlace {
	readonly course: string;
	readonly person: string;
	readonly role: RosterRole;
}

/** A row that cannot be used, and why, as a sentence. */
export interface RowProblem {
	readonly file: string;
	/** From 1, as a spreadsheet counts. */
	readonly line: number;
	readonly reason: string;
}

/** What a roster says. */
export interface Roster {
	readonly people: readonly RosterEntry[];
	/** Empty for the list of one course. */
	readonly courses: readonly RosterCourse[];
	readonly places: readonly RosterPlace[];
	readonly problems: readonly RowProblem[];
}

/** Rows of a table, each cell trimmed, with the line that each begins on. */
export interface Table {
	readonly name: string;
	readonly rows: readonly { readonly line: number; readonly cells: readonly string[] }[];
}

/** Why a text cannot be a name or a code; null for one that can. */
export function textProblem(text: string): string | null {
	if (/^[=+@]|^-[^\p{L}]/u.test(text)) return `“${text.slice(0, 40)}” is a formula, and no name`;
	if (text.length > 100) return `“${text.slice(0, 30)} …” is longer than 100 characters`;
	if (/[\u0000-\u001f\u007f]/.test(text)) return 'it holds control characters'; // eslint-disable-line no-control-regex
	return null;
}

/** Whether a text can be a mail address. */
export function isMail(text: string): boolean {
	return /^[^\s@,;<>()"]+@[^\s@,;<>()"]+\.[^\s@,;<>()"]+$/.test(text);
}
