import { parseArgs } from 'node:util';
import { nameOnPage, type NameReading } from '../src/lib/core/reading/personName';
import type { RuleSheet } from '../src/lib/core/rules/ruleSheet';
import { preparePages } from './preparedPages';
import { readRules } from './rules';

/**
 * `prepare --rules R.json --person "Given Family" -o OUT.pdf FILE…`: the whole job without a screen.
 * Returns 0 when nothing blocks, 2 when something does, 1 on an error.
 */
export async function prepareFiles(args: string[]): Promise<number> {
	const { values, positionals } = parseArgs({
		args,
		allowPositionals: true,
		options: {
			rules: { type: 'string' },
			person: { type: 'string' },
			output: { type: 'string', short: 'o' },
			'no-reading': { type: 'boolean' }
		}
	});
	const { rules: rulesPath, person: name, output } = values;
	if (!rulesPath || !name || !output || positionals.length === 0) {
		throw new Error(
			'Use: membrana prepare --rules R.json --person "Given Family" [--no-reading] -o OUT.pdf FILE…'
		);
	}
	const rules = await readRules(rulesPath);
	const person = splitName(name);
	// What makes files is loaded while the pages are prepared.
	const making = import('./packetFile');
	const pages = (
		await preparePages(positionals, rules, { reading: !values['no-reading'], inStack: false })
	).map((page) => ({
		...page,
		name: page.reading && nameOnPage(page.reading, [person])
	}));
	const others = otherNames(
		pages.map((p) => p.name),
		rules
	);
	const found = pages.map((page, i) => ({ ...page, otherPerson: others[i]! }));
	const { writePacket } = await making;
	const written = await writePacket(found, rules, { ...person, full: name }, output);
	if (!written) throw new Error('None of the files holds a page with writing.');
	return written.findings.some((f) => f.level === 'blocks') ? 2 : 0;
}

/** Words that begin with a capital at the top of a page without being a name. */
const HEADINGS =
	/^(page|question|worksheet|exercise|homework|assignment|name|date|class|course|part|figure|table|notes?|answers?)$/i;

/**
 * For each page, the name at its top when it is surely somebody else's: read well, no word of the assignment, and other
 * pages carry the person's own.
 */
function otherNames(names: readonly (NameReading | null)[], rules: RuleSheet): (string | null)[] {
	if (!names.some((n) => n?.person)) return names.map(() => null);
	const known = `${rules.title} ${rules.course ?? ''}`.toLowerCase().split(/\W+/);
	return names.map((name) => {
		if (!name || name.person || name.confidence < 0.7) return null;
		const words = name.text.split(' ');
		const isHeading = words.some((w) => HEADINGS.test(w) || known.includes(w.toLowerCase()));
		return isHeading ? null : name.text;
	});
}

/** The last word is the family name, as people write their names here. */
function splitName(name: string): { given: string; family: string } {
	const words = name.trim().split(/\s+/);
	return { given: words.slice(0, -1).join(' '), family: words.at(-1) ?? '' };
}
