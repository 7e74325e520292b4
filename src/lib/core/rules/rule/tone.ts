import { usualTone } from '../../tone/usualTone';
import { capital, list, namePages, type PagesInput, type Finding } from '../finding';
import { levelOf } from '../ruleSheet';
import { TONE_KINDS, type ToneName } from '../../tone/tone';

/** Every page is in a tone the rule sheet allows. */
export function tone({ sheet, packet }: PagesInput): Finding {
	const allowed = sheet.tone;
	const usual = usualTone(sheet);
	const toneOf = (page: string) => packet.pages[page]?.tone ?? usual;
	const wrong = packet.strip.flatMap((page, i) =>
		allowed && !allowed.includes(toneOf(page).name) ? [{ page, position: i + 1 }] : []
	);
	if (wrong.length === 0) {
		const used = [...new Set(packet.strip.map((p) => toneOf(p).name))];
		return {
			rule: 'tone',
			level: 'clear',
			message: capital(list(used.map(toneWords))),
			pages: []
		};
	}
	const positions = wrong.map((w) => w.position);
	return {
		rule: 'tone',
		level: levelOf(sheet, 'tone'),
		message: `${capital(namePages(positions))} ${positions.length === 1 ? 'is' : 'are'} in a tone that is not allowed; allowed: ${list(
			allowed!.map(toneWords)
		)}.`,
		pages: positions,
		fix: {
			label: `Change to ${toneWords(usual.name)}`,
			task: 'tone',
			page: wrong[0]!.page,
			change: {
				kind: 'together',
				changes: wrong.map(({ page }) => ({ kind: 'setTone', page, tone: null }))
			}
		}
	};
}

export function toneWords(name: ToneName): string {
	return TONE_KINDS[name].words;
}
