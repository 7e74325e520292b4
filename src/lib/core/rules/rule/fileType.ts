import type { PagesInput, Finding } from '../finding';
import { levelOf } from '../ruleSheet';

const NAMES = { pdf: 'one PDF', zip: 'page images in a ZIP' } as const;

/** The file is of the type that is asked for. */
export function fileType({ sheet, fileType }: PagesInput): Finding {
	const asked = sheet.file?.type ?? 'pdf';
	const made = fileType ?? asked;
	if (made === asked) return { rule: 'fileType', level: 'clear', message: NAMES[made], pages: [] };
	return {
		rule: 'fileType',
		level: levelOf(sheet, 'fileType'),
		message: `This is ${NAMES[made]}; asked is ${NAMES[asked]}.`,
		pages: []
	};
}
