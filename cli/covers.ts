import { parseArgs } from 'node:util';
import { readClass } from './readClass';
import { readRules } from './rules';
import { writeWhole } from './writeWhole';

/** `covers --rules R.json --roster ROSTER.csv -o FILE.pdf`: a cover sheet for everybody in the class. */
export async function printCovers(args: string[]): Promise<number> {
	const { values } = parseArgs({
		args,
		options: {
			rules: { type: 'string' },
			roster: { type: 'string' },
			output: { type: 'string', short: 'o' }
		}
	});
	const { rules: rulesPath, roster: rosterPath, output } = values;
	if (!rulesPath || !rosterPath || !output) {
		throw new Error('Use: membrana covers --rules R.json --roster ROSTER.csv -o FILE.pdf');
	}
	const { title, course } = await readRules(rulesPath);
	const people = (await readClass(rosterPath)).map(({ id, given, family }) => ({
		sourcedId: id,
		given,
		family
	}));
	const { makeCoversPdf } = await import('../src/lib/server/codec/coversPdf');
	await writeWhole(output, await makeCoversPdf({ title, course: course ?? '', assignment: '', people }));
	return 0;
}
