import { cluesOfPages, type PageClues } from '../../order/pageClues';
import { settleNumbers } from '../../order/pageNumbers';
import { repeatedPages } from '../../order/samePages';
import type { Finding, PagesInput } from '../finding';
import { levelOf } from '../ruleSheet';

/** No page is on the strip twice. The better readable one is offered to be kept. */
export function duplicates({ sheet, packet, evidence }: PagesInput): Finding {
	const clues = cluesOfPages(packet.strip, packet, evidence);
	const positionOf = ({ page }: PageClues) => packet.strip.indexOf(page) + 1;
	const twins = repeatedPages(clues, settleNumbers(clues));
	const worse = twins.findIndex((twin) => twin !== null);
	if (worse < 0) return { rule: 'duplicates', level: 'clear', message: 'No page is there twice', pages: [] };
	const aside = clues[worse]!;
	const kept = clues[twins[worse]!]!;
	const pages = [positionOf(aside), positionOf(kept)].sort((a, b) => a - b);
	const alike = aside.legibility === kept.legibility;
	return {
		rule: 'duplicates',
		level: levelOf(sheet, 'duplicates'),
		message: `Pages ${pages[0]} and ${pages[1]} carry the same writing. Page ${positionOf(kept)} reads ${alike ? 'as well' : 'better'}.`,
		pages,
		fix: {
			label: `Keep page ${positionOf(kept)}, set page ${positionOf(aside)} aside`,
			task: 'order',
			page: aside.page,
			change: {
				kind: 'place',
				page: aside.page,
				to: { on: 'tray', index: packet.tray.length, reason: 'duplicate' }
			}
		}
	};
}
