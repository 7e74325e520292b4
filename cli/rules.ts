import { readFile } from 'node:fs/promises';
import type { RuleSheet } from '../src/lib/core/rules/ruleSheet';
import { parseRuleSheet } from '../src/lib/core/rules/ruleSheetSchema';

/** Reads a rule sheet from a file. Throws with a sentence that names the file and what is wrong. */
export async function readRules(path: string): Promise<RuleSheet> {
	const text = await readFile(path, 'utf8').catch(() => {
		throw new Error(`The rule sheet ${path} cannot be read.`);
	});
	let value: unknown;
	try {
		value = JSON.parse(text);
	} catch (error) {
		throw new Error(`${path} is not JSON: ${(error as Error).message}`);
	}
	return parseRuleSheet(value);
}
