import { nameFromPattern } from '../naming/namePattern';
import { DEFAULT_NAME_PATTERN, type RuleSheet } from './ruleSheet';

/** The name the rule sheet's pattern gives for a person, without extension. */
export function expectedFileName(
	sheet: RuleSheet,
	person: { readonly given: string; readonly family: string }
): string {
	return nameFromPattern(sheet.file?.namePattern ?? DEFAULT_NAME_PATTERN, {
		...person,
		course: sheet.course ?? '',
		title: sheet.title
	});
}
