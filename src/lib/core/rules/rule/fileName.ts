import { nameProblems } from '../../naming/namePattern';
import { list, type PagesInput, type Finding } from '../finding';
import { expectedFileName } from '../expectedFileName';
import { levelOf } from '../ruleSheet';

/** The name follows the pattern and no system refuses it. */
export function fileName({ sheet, packet, person }: PagesInput): Finding {
	const expected = expectedFileName(sheet, person);
	const name = packet.fileName ?? expected;
	const extension = sheet.file?.type === 'zip' ? 'zip' : 'pdf';
	const problems = nameProblems(name);
	if (problems.length > 0) {
		return {
			rule: 'fileName',
			level: 'blocks',
			message: `"${name}" may be refused: ${list(problems)}.`,
			pages: [],
			fix: { label: 'Use the asked name', task: 'name', change: { kind: 'setFileName', name: null } }
		};
	}
	if (sheet.file?.namePattern && name !== expected) {
		return {
			rule: 'fileName',
			level: levelOf(sheet, 'fileName'),
			message: `"${name}.${extension}" does not follow the pattern; asked is "${expected}.${extension}".`,
			pages: [],
			fix: { label: 'Use the asked name', task: 'name', change: { kind: 'setFileName', name: null } }
		};
	}
	return { rule: 'fileName', level: 'clear', message: `${name}.${extension}`, pages: [] };
}
