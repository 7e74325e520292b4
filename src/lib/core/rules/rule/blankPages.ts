import { blankOf } from '../../page/blank';
import { capital, namePages, plural, type Finding, type PagesInput } from '../finding';
import { levelOf } from '../ruleSheet';

/** Pages on which no writing was found: those that may be blank are pointed out, and left where they are. */
export function blankPages({ sheet, packet, evidence }: PagesInput): Finding {
	const of = (page: string) => blankOf(evidence[page]?.prepared ?? null, evidence[page]?.reading ?? null);
	const found = packet.strip.flatMap((page, i) =>
		of(page) === 'no' ? [] : [{ page, position: i + 1, sure: of(page) === 'yes' }]
	);
	const away = packet.tray.filter(({ reason }) => reason === 'blank').length;
	if (found.length === 0) {
		const message = away > 0 ? `${plural(away, 'blank page')} set aside` : 'No page is blank';
		return { rule: 'blankPages', level: 'clear', message, pages: [] };
	}
	const first = found[0]!;
	const positions = found.map(({ position }) => position);
	const all = found.every(({ sure }) => sure);
	return {
		rule: 'blankPages',
		level: levelOf(sheet, 'blankPages'),
		message: all
			? `${capital(namePages(positions))}: there is nothing on it but the paper.`
			: `${capital(namePages(positions))}: no writing was found, though something is there. Look whether it is blank.`,
		pages: positions,
		fix: {
			label: `Set page ${first.position} aside as blank`,
			task: 'order',
			page: first.page,
			change: {
				kind: 'place',
				page: first.page,
				to: { on: 'tray', index: packet.tray.length, reason: 'blank' }
			}
		}
	};
}
