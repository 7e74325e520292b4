import { formatOffset, zoneOffset } from './dueTime';
import type { RuleSheet } from './ruleSheet';

/**
 * A rule sheet for somebody who was given more time. The end of a timed session moves with its due time.
 * @param due a moment with its zone; null where no more was given
 */
export function withMoreTime<S extends Pick<RuleSheet, 'due' | 'workUntil'>>(
	sheet: S,
	due: string | null
): S {
	if (due === null || !sheet.due) return sheet;
	const more = Date.parse(due) - Date.parse(sheet.due);
	if (!sheet.workUntil) return { ...sheet, due };
	return { ...sheet, due, workUntil: inZoneOf(Date.parse(sheet.workUntil) + more, sheet.workUntil) };
}

/** A moment as it is written in the zone of another. */
function inZoneOf(at: number, like: string): string {
	const minutes = zoneOffset(like);
	const local = new Date(at + minutes * 60_000).toISOString().slice(0, 19);
	return `${local}${formatOffset(minutes)}`;
}
