import { formatDuration, formatDue, lastMoment } from '../dueTime';
import type { CheckInput, Finding } from '../finding';
import { levelOf } from '../ruleSheet';

/** The due time has not passed, or a grace period still runs. Null when there is none. */
export function due({ sheet, now }: Pick<CheckInput, 'sheet' | 'now'>): Finding | null {
	if (!sheet.due) return null;
	const left = Date.parse(sheet.due) - now;
	const when = formatDue(sheet.due);
	if (left >= 0) {
		return { rule: 'due', level: 'clear', message: `${when}, in ${formatDuration(left)}`, pages: [] };
	}
	const late = `It was due ${when}: ${formatDuration(-left)} ago.`;
	const graceLeft = lastMoment(sheet)! - now;
	if (sheet.grace && graceLeft >= 0) {
		return {
			rule: 'due',
			level: 'look',
			message: `${late} The grace period runs for ${formatDuration(graceLeft)} more.`,
			pages: []
		};
	}
	return {
		rule: 'due',
		level: levelOf(sheet, 'due'),
		message: sheet.grace ? `${late} The grace period is over too.` : late,
		pages: []
	};
}
