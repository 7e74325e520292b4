/** What a desk knows of an assignment of one's own. */
export interface DueRow {
	/** ISO 8601; null without a due time. */
	readonly due: string | null;
	readonly handedInAt: string | null;
	/** When it was given back, where that still stands. */
	readonly returnedAt: string | null;
	/** On the strip. */
	readonly pages: number;
}

/** Milliseconds after its due time for which an assignment that was not handed in is still put first. */
const STILL_ASKED = 14 * 24 * 3_600_000;

/**
 * The assignment that a person should turn to next: the soonest due of those that are not handed in or were given back,
 * then what is overdue, the latest first, then what has no due time and is begun.
 *
 * @param now milliseconds since 1970
 */
export function dueNext<Row extends DueRow>(rows: readonly Row[], now: number): Row | null {
	const waiting = rows.filter((row) => row.handedInAt === null || row.returnedAt !== null);
	const left = (row: Row) => (row.due ? Date.parse(row.due) - now : Infinity);
	const isAhead = (row: Row) => left(row) >= 0 && left(row) < Infinity;
	const isPast = (row: Row) => left(row) < 0 && left(row) > -STILL_ASKED;
	const isBegun = (row: Row) => row.due === null && (row.pages > 0 || row.returnedAt !== null);
	return (
		waiting.filter(isAhead).sort((a, b) => left(a) - left(b))[0] ??
		waiting.filter(isPast).sort((a, b) => left(b) - left(a))[0] ??
		waiting.find(isBegun) ??
		null
	);
}
