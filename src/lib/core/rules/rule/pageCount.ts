import { blankOf } from '../../page/blank';
import { plural, type PagesInput, type Finding } from '../finding';
import { levelOf } from '../ruleSheet';

/** Exact number or range of pages; blank pages and pages set aside are not counted. */
export function pageCount({ sheet, packet, evidence }: PagesInput): Finding {
	const isBlank = (page: string) =>
		blankOf(evidence[page]?.prepared ?? null, evidence[page]?.reading ?? null) === 'yes';
	const blank = packet.strip.flatMap((page, i) => (isBlank(page) ? [i + 1] : []));
	const count = packet.strip.length - blank.length;
	const { min, max } = sheet.pages ?? {};
	const asked =
		min && max
			? min === max
				? `${min} asked`
				: `${min} to ${max} asked`
			: min
				? `at least ${min} asked`
				: max
					? `at most ${max} asked`
					: 'any number is fine';
	const notCounted = blank.length > 0 ? `, ${blank.length} blank not counted` : '';
	const message = `${plural(count, 'page')}${notCounted}; ${asked}`;
	if (count === 0) {
		return {
			rule: 'pageCount',
			level: 'blocks',
			message: 'There are no pages yet.',
			pages: [],
			fix: { label: 'Bring in pages', task: 'gather' }
		};
	}
	const tooFew = min !== undefined && count < min;
	const tooMany = max !== undefined && count > max;
	if (!tooFew && !tooMany) return { rule: 'pageCount', level: 'clear', message, pages: [] };
	return {
		rule: 'pageCount',
		level: levelOf(sheet, 'pageCount'),
		message,
		pages: tooMany ? blank : [],
		fix: tooFew
			? { label: 'Bring in the missing pages', task: 'gather' }
			: { label: 'Set pages aside', task: 'order' }
	};
}
