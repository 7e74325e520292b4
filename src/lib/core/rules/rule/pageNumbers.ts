import { cluesOfPages } from '../../order/pageClues';
import { proposeOrder } from '../../order/proposeOrder';
import { settleNumbers } from '../../order/pageNumbers';
import { list, type PagesInput, type Finding } from '../finding';
import { levelOf } from '../ruleSheet';
import { readOrderFix } from './readOrder';

/** Numbers read off with less than this are not held against anybody. */
const SURE = 0.6;

/** Numbers written on the pages rise with them, and none is left out. */
export function pageNumbers(input: PagesInput): Finding {
	const { sheet, packet, evidence } = input;
	const clues = cluesOfPages(packet.strip, packet, evidence);
	const clear = (message: string): Finding => ({ rule: 'pageNumbers', level: 'clear', message, pages: [] });
	// Until every page has been read nothing is held against the pages.
	if (clues.length < packet.strip.length || clues.some((c) => !c.reading)) return clear('Not known yet');
	const numbers = settleNumbers(clues).map((n) => (n && n.confidence >= SURE ? n : null));
	const read = numbers.flatMap((n) => n ?? []);
	if (read.length === 0) return clear('No page numbers on the pages');
	const broken = (message: string, pages: number[], fix: Finding['fix']): Finding => ({
		rule: 'pageNumbers',
		level: levelOf(sheet, 'pageNumbers'),
		message,
		pages,
		fix
	});
	const written = (i: number) => {
		const { number, of } = numbers[i]!;
		return of === null ? `${number}` : `${number} of ${of}`;
	};
	let last = -1;
	for (let i = 0; i < numbers.length; i++) {
		if (!numbers[i]) continue;
		if (last >= 0 && numbers[i]!.number <= numbers[last]!.number) {
			return broken(
				`Page ${last + 1} reads “${written(last)}”, and page ${i + 1} after it “${written(i)}”.`,
				[last + 1, i + 1],
				readOrderFix(input, { label: 'Look at the order', task: 'order', page: packet.strip[i]! })
			);
		}
		last = i;
	}
	const { missing } = proposeOrder(clues, sheet.questions);
	if (missing.length > 0) {
		const shown = last;
		return broken(
			`Page ${shown + 1} reads “${written(shown)}”; nothing reads ${list(missing.map(String))}.`,
			[shown + 1],
			{ label: 'Bring in what is missing', task: 'gather' }
		);
	}
	return clear(list(read.map((n) => String(n.number))));
}
