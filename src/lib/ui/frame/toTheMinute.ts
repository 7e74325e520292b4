/** "25 Nov 2026, 14:03", in the reader's own zone. */
export function toTheMinute(iso: string | Date): string {
	return new Date(iso).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
}
