import type { RuleSheet } from './ruleSheet';

const DAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];
const MONTHS = 'Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec'.split(' ');

/** Minutes by which the zone at the end of a moment, or a zone by itself, is ahead of UTC: "+01:00" is 60. */
export function zoneOffset(iso: string): number {
	const [, sign, hours, minutes] = /([+-])(\d\d):(\d\d)$/.exec(iso) ?? [];
	return sign ? (sign === '-' ? -1 : 1) * (Number(hours) * 60 + Number(minutes)) : 0;
}

/** Minutes by which a zone is ahead of UTC at a moment. */
export function offsetAt(at: number, timeZone: string): number {
	const parts = new Intl.DateTimeFormat('en-US', {
		timeZone,
		hourCycle: 'h23',
		year: 'numeric',
		month: 'numeric',
		day: 'numeric',
		hour: 'numeric',
		minute: 'numeric'
	}).formatToParts(at);
	const [year, month, day, hour, minute] = (['year', 'month', 'day', 'hour', 'minute'] as const).map((type) =>
		Number(parts.find((p) => p.type === type)!.value)
	) as [number, number, number, number, number];
	return Math.round(
		(Date.UTC(year, month - 1, day, hour, minute) - Math.floor(at / 60_000) * 60_000) / 60_000
	);
}

/**
 * Minutes by which a zone is ahead of UTC when its clock shows a time.
 * @param local "2026-12-04T18:00"
 */
export function offsetOfLocal(local: string, timeZone: string): number {
	const asUtc = Date.parse(`${local}Z`);
	// The offset of the moment itself: on days on which clocks change the first guess may be an hour off.
	return offsetAt(asUtc - offsetAt(asUtc, timeZone) * 60_000, timeZone);
}

/** "+01:00", of minutes ahead of UTC. */
export function formatOffset(minutes: number): string {
	const two = (n: number) => String(n).padStart(2, '0');
	return `${minutes < 0 ? '-' : '+'}${two(Math.floor(Math.abs(minutes) / 60))}:${two(Math.abs(minutes) % 60)}`;
}

/** "Fri 4 Dec 18:00 (UTC+1)": the due time as its author wrote it, with its zone. */
export function formatDue(iso: string): string {
	const minutes = zoneOffset(iso);
	const local = new Date(Date.parse(iso) + minutes * 60_000);
	const two = (n: number) => String(n).padStart(2, '0');
	const offset =
		minutes === 0
			? 'UTC'
			: `UTC${minutes < 0 ? '-' : '+'}${Math.floor(Math.abs(minutes) / 60)}${minutes % 60 ? `:${two(Math.abs(minutes) % 60)}` : ''}`;
	return `${DAYS[local.getUTCDay()]} ${local.getUTCDate()} ${MONTHS[local.getUTCMonth()]} ${two(
		local.getUTCHours()
	)}:${two(local.getUTCMinutes())} (${offset})`;
}

/** "3 days", "2 h 5 min", "9 min", to the minute under two days; milliseconds in. */
export function formatDuration(milliseconds: number): string {
	const minutes = Math.floor(milliseconds / 60_000);
	if (minutes >= 2 * 24 * 60) return `${Math.floor(minutes / (24 * 60))} days`;
	if (minutes >= 60) {
		const rest = minutes % 60;
		return `${Math.floor(minutes / 60)} h${rest ? ` ${rest} min` : ''}`;
	}
	return minutes < 1 ? 'less than a minute' : `${minutes} min`;
}

/** When the last moment is, the grace period included; milliseconds since 1970, null without a due time. */
export function lastMoment(sheet: Pick<RuleSheet, 'due' | 'grace'>): number | null {
	return sheet.due ? Date.parse(sheet.due) + (sheet.grace ?? 0) * 60_000 : null;
}

/** What runs at a moment, and when it ends. */
export interface Clock {
	/**
	 * `working`: a timed session in which people still write; `handing-in`: its time to photograph and hand in; `open`:
	 * any other time before it is due; `grace`: after it; `over`: nothing runs any more.
	 */
	readonly phase: 'working' | 'handing-in' | 'open' | 'grace' | 'over';
	/** Milliseconds until the phase ends; since it was due when it is over. */
	readonly left: number;
}

/** What the clock shows; null without a due time. */
export function clockAt(sheet: Pick<RuleSheet, 'due' | 'grace' | 'workUntil'>, now: number): Clock | null {
	if (!sheet.due) return null;
	const due = Date.parse(sheet.due);
	const work = sheet.workUntil ? Date.parse(sheet.workUntil) : null;
	if (work !== null && now < work) return { phase: 'working', left: work - now };
	if (now <= due) return { phase: work === null ? 'open' : 'handing-in', left: due - now };
	const last = lastMoment(sheet)!;
	return now <= last ? { phase: 'grace', left: last - now } : { phase: 'over', left: now - due };
}

/** "1:02:09" or "14:59": what is left, to the second. */
export function formatClock(milliseconds: number): string {
	const seconds = Math.max(0, Math.ceil(milliseconds / 1000));
	const two = (n: number) => String(n).padStart(2, '0');
	const hours = Math.floor(seconds / 3600);
	const rest = `${two(Math.floor((seconds % 3600) / 60))}:${two(seconds % 60)}`;
	return hours > 0 ? `${hours}:${rest}` : rest;
}
