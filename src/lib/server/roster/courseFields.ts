import { textProblem } from '../../core/roster/roster';
import type { CourseRow } from '../store/courses';

export type CourseFields = Pick<CourseRow, 'code' | 'title' | 'timeZone' | 'language'>;

/** A course out of a form, with what is wrong with it as a sentence. */
export function courseFields(form: FormData): {
	readonly fields: CourseFields;
	readonly problem: string | null;
} {
	const text = (name: string) =>
		String(form.get(name) ?? '')
			.normalize('NFC')
			.replace(/\s+/g, ' ')
			.trim()
			.slice(0, 200);
	const fields = {
		code: text('code'),
		title: text('title'),
		timeZone: text('timeZone') || 'UTC',
		language: text('language') || 'en'
	};
	return { fields, problem: problemOf(fields) };
}

function problemOf({ code, title, timeZone, language }: CourseFields): string | null {
	if (code === '' || code.length > 60) return 'A course has a code of 1 to 60 characters, such as HY-2.';
	if (title === '') return 'Give the course a title.';
	const wrong = textProblem(code) ?? textProblem(title);
	if (wrong) return `${wrong[0]!.toUpperCase()}${wrong.slice(1)}.`;
	if (!isTimeZone(timeZone)) return `There is no time zone “${timeZone}”.`;
	if (!/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/.test(language))
		return `“${language}” is no language, such as en or nl.`;
	return null;
}

function isTimeZone(name: string): boolean {
	try {
		new Intl.DateTimeFormat('en', { timeZone: name });
		return true;
	} catch {
		return false;
	}
}
