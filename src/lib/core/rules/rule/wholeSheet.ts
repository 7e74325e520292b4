import { capital, list, namePages, type PagesInput, type Finding } from '../finding';
import { levelOf } from '../ruleSheet';

/** Nothing of a sheet lies outside its picture, unless a person has set the corners. */
export function wholeSheet({ sheet, packet, evidence }: PagesInput): Finding {
	const cut: { position: number; page: string; sides: readonly string[] }[] = [];
	const unsure: { position: number; page: string }[] = [];
	packet.strip.forEach((page, i) => {
		const outline = evidence[page]?.picture?.outline;
		if (!outline || packet.pages[page]?.corners) return;
		if (outline.cutOff.length > 0) cut.push({ position: i + 1, page, sides: outline.cutOff });
		else if (outline.confidence < 0.5) unsure.push({ position: i + 1, page });
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
			fix: { label: 'Set the corners', task: 'square', page: unsure[0]!.page }
		};
	}
	return { rule: 'wholeSheet', level: 'clear', message: 'Every sheet is whole', pages: [] };
}
