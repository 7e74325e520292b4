import type { Change } from '../../packet/change';
import { foundTurn, SURE_TURN, turnOf } from '../../page/effective';
import { capital, namePages, type PagesInput, type Finding } from '../finding';
import { levelOf } from '../ruleSheet';

/** Every page is upright; where the writing did not tell, a person has to have set the turn. */
export function upright({ sheet, packet, evidence }: PagesInput): Finding {
	const unsure: { position: number; page: string; asItLies: Change }[] = [];
	packet.strip.forEach((page, i) => {
		const known = evidence[page];
		const settings = packet.pages[page];
		if (!known?.picture || known.prepared?.blank || settings?.turn !== null) return;
		if (foundTurn(known.picture).confidence >= SURE_TURN) return;
		const asItLies = { kind: 'setTurn', page, turn: turnOf(settings, known.picture) } as const;
		unsure.push({ position: i + 1, page, asItLies });
	});
	if (unsure.length === 0) {
		return { rule: 'upright', level: 'clear', message: 'Every page is upright', pages: [] };
	}
	const positions = unsure.map((u) => u.position);
	return {
		rule: 'upright',
		level: levelOf(sheet, 'upright'),
		message: `${capital(namePages(positions))}: the writing does not tell which way is up.`,
		pages: positions,
		fix: { label: `Look at page ${positions[0]}`, task: 'square', page: unsure[0]!.page },
		otherwise: {
			label: unsure.length === 1 ? 'It is upright as it lies' : 'They are upright as they lie',
			task: 'square',
			page: unsure[0]!.page,
			change: { kind: 'together', changes: unsure.map((u) => u.asItLies) }
		}
	};
}
