const DAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];
const MONTHS = 'Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec'.split(' ');

/** "Fri 4 Dec 18:00 (UTC+1)": the due time as its author wrote it, with its zone. */
export function formatDue(iso: string): string {
	const zone = /(Z|([+-])(\d\d):(\d\d))$/.exec(iso);
	const sign = zone?.[2] === '-' ? -1 : 1;
	const minutes = zone?.[2] ? sign * (Number(zone[3]) * 60 + Number(zone[4])) : 0;
	const local = new Date(Date.parse(iso) + minutes * 60_000);
	const two = (n: number) => String(n).padStart(2, '0');
	const offset =
		minutes === 0
			? 'UTC'
			: `UTC${sign < 0 ? '-' : '+'}${Math.floor(Math.abs(minutes) / 60)}${minutes % 60 ? `:${two(Math.abs(minutes) % 60)}` : ''}`;
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
