import { formatDuration, formatDue } from '../dueTime';
import type { CheckInput, Finding } from '../finding';
import { levelOf } from '../ruleSheet';

/** The due time has not passed. Null when there is none. */
export function due({ sheet, now }: CheckInput): Finding | null {
	if (!sheet.due) return null;
	const left = Date.parse(sheet.due) - now;
	const when = formatDue(sheet.due);
	if (left >= 0) {
		return { rule: 'due', level: 'clear', message: `${when}, in ${formatDuration(left)}`, pages: [] };
	}
	return {
		rule: 'due',
		level: levelOf(sheet, 'due'),
		message: `It was due ${when}: ${formatDuration(-left)} ago.`,
		pages: []
	};
}
