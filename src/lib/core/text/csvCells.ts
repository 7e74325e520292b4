/** What a spreadsheet takes for the beginning of a formula, when a file is opened. */
const FORMULA = /^[=+\-@\t\r]/;

/**
 * A row for a CSV table that people open in a spreadsheet: text that would be a formula there gets an apostrophe before
 * it. Numbers stay as they are.
 */
export function asCells(row: object): Record<string, string | number | boolean | null> {
	return Object.fromEntries(
		Object.entries(row).map(([key, value]) => [
			key,
			typeof value === 'string' && FORMULA.test(value) ? `'${value}` : (value as string | number | boolean)
		])
	);
}
