import { headerEnds } from '../../order/pageHeader';
import { blankOf } from '../../page/blank';
import { capital, namePages, plural, type Finding, type PagesInput } from '../finding';
import { levelOf } from '../ruleSheet';

/** Less likely labels do not make a page one that was written on. */
const LEAST_LABEL = 0.3;

/** Pages on which no writing was found: those that may be blank are pointed out, and left where they are. */
export function blankPages({ sheet, packet, evidence }: PagesInput): Finding {
	const pages = packet.strip.map((page) => ({ reading: evidence[page]?.reading ?? null }));
	const headers = headerEnds(pages);
	const isWrittenOn = (i: number) => {
		const { reading } = pages[i]!;
		if (!reading || reading.startsOnly || reading.lines.length === 0) return true;
		return (
			packet.seams.some((s) => s.page === packet.strip[i]) ||
			reading.lines.some((l) => (l.box[1] + l.box[3]) / 2 > headers[i]!) ||
			reading.labels.some((l) => (l.options[0]?.probability ?? 0) > LEAST_LABEL)
		);
	};
	const found = packet.strip.flatMap((page, i) => {
		const blank = blankOf(evidence[page]?.prepared ?? null, pages[i]!.reading);
		if (blank === 'no' && isWrittenOn(i)) return [];
		return [{ page, position: i + 1, sure: blank === 'yes', headed: blank === 'no' }];
	});
	const away = packet.tray.filter(({ reason }) => reason === 'blank').length;
	if (found.length === 0) {
		const message = away > 0 ? `${plural(away, 'blank page')} set aside` : 'No page is blank';
		return { rule: 'blankPages', level: 'clear', message, pages: [] };
	}
	const first = found[0]!;
	const positions = found.map(({ position }) => position);
	const where = capital(namePages(positions));
	return {
		rule: 'blankPages',
		level: levelOf(sheet, 'blankPages'),
		message: found.every(({ sure }) => sure)
			? `${where}: there is nothing on it but the paper.`
			: found.every(({ headed }) => headed)
				? `${where}: nothing was read below the header. Look whether it is blank.`
				: `${where}: no writing was found, though something is there. Look whether it is blank.`,
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
