import { toneWords } from '../rules/rule/tone';
import { formatBytes } from '../rules/formatBytes';
import { formatDue } from '../rules/dueTime';
import { capital, list, plural } from '../rules/finding';
import { answerables } from '../assignment/question';
import { levelOf, type RuleName, type RuleSheet } from '../rules/ruleSheet';
import { expectedFileName } from '../rules/expectedFileName';

/** One thing the assignment asks, in words for the student. */
export interface Asked {
	readonly rule: RuleName;
	readonly text: string;
	/** What happens when it is not met. */
	readonly level: 'blocks' | 'look';
}

/** What a student is told that an assignment asks, in the order of the work; each rule at most once. */
export function describeRules(
	sheet: RuleSheet,
	person: { readonly given: string; readonly family: string }
): Asked[] {
	const asked: [RuleName, string][] = [];
	const { min, max, size } = sheet.pages ?? {};
	if (min && max) asked.push(['pageCount', min === max ? plural(min, 'page') : `${min} to ${max} pages`]);
	else if (min) asked.push(['pageCount', `At least ${plural(min, 'page')}`]);
	else if (max) asked.push(['pageCount', `At most ${plural(max, 'page')}`]);
	if (size) asked.push(['pageSize', `On ${size} paper`]);
	const questions = answerables(sheet.questions);
	asked.push([
		'allAnswered',
		`An answer to ${list(questions.map((q) => q.id))}, or a mark that it was not attempted`
	]);
	const own = questions.filter((q) => q.newPage).map((q) => q.id);
	if (own.length > 0) asked.push(['newPage', `${list(own)} on a new page`]);
	asked.push([
		'legibility',
		sheet.legibility === 'clear' ? 'Every page clearly legible' : 'Every page at least just legible'
	]);
	if (sheet.tone) asked.push(['tone', `In ${sheet.tone.map(toneWords).join(' or ')}`]);
	const extension = sheet.file?.type ?? 'pdf';
	asked.push(['fileName', `Named ${expectedFileName(sheet, person)}.${extension}`]);
	if (sheet.file?.maxBytes) asked.push(['fileSize', `At most ${formatBytes(sheet.file.maxBytes)}`]);
	if (sheet.due) {
		const by = `by ${formatDue(sheet.due)}`;
		const grace = sheet.grace ? `, taken for ${plural(sheet.grace, 'minute')} more` : '';
		const timed =
			sheet.workUntil && `Write until ${formatDue(sheet.workUntil)}, then photograph and hand in ${by}`;
		asked.push(['due', `${timed ?? capital(by)}${grace}`]);
	}
	return asked.map(([rule, text]) => ({ rule, text, level: levelOf(sheet, rule) }));
}
