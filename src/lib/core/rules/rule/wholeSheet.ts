import type { Change } from '../../packet/change';
import { flattenedAlong } from '../../page/effective';
import { capital, list, namePages, type PagesInput, type Finding } from '../finding';
import { levelOf } from '../ruleSheet';

/** Nothing of a sheet lies outside its picture, unless a person has set the corners. */
export function wholeSheet({ sheet, packet, evidence }: PagesInput): Finding {
	const cut: { position: number; page: string; sides: readonly string[] }[] = [];
	const unsure: { position: number; page: string; whole: Change }[] = [];
	packet.strip.forEach((page, i) => {
		const picture = evidence[page]?.picture;
		const settings = packet.pages[page];
		if (!picture || !settings || settings.corners) return;
		const { outline } = picture;
		if (outline.cutOff.length > 0) cut.push({ position: i + 1, page, sides: outline.cutOff });
		else if (outline.confidence < 0.5) {
			const whole = { kind: 'setCorners', page, corners: flattenedAlong(settings, picture) } as const;
			unsure.push({ position: i + 1, page, whole });
		}
	});
	if (cut.length > 0) {
		const first = cut[0]!;
		return {
			rule: 'wholeSheet',
			level: levelOf(sheet, 'wholeSheet'),
			message: `On page ${first.position} the sheet runs out of the picture at the ${list(first.sides)}${
				cut.length > 1 ? `; also ${namePages(cut.slice(1).map((c) => c.position))}` : ''
			}.`,
			pages: cut.map((c) => c.position),
			fix: { label: `Show page ${first.position}`, task: 'square', page: first.page }
		};
	}
	if (unsure.length > 0) {
		const positions = unsure.map((u) => u.position);
		return {
			rule: 'wholeSheet',
			level: levelOf(sheet, 'wholeSheet'),
			message: `${capital(namePages(positions))}: no sheet was made out for certain, so the whole picture is kept.`,
			pages: positions,
			fix: { label: 'Set the corners', task: 'square', page: unsure[0]!.page },
			otherwise: {
				label: unsure.length === 1 ? 'It fills the picture' : 'They fill their pictures',
				task: 'square',
				page: unsure[0]!.page,
				change: { kind: 'together', changes: unsure.map((u) => u.whole) }
			}
		};
	}
	return { rule: 'wholeSheet', level: 'clear', message: 'Every sheet is whole', pages: [] };
}
