import { capital, namePages, type PagesInput, type Finding } from '../finding';
import { levelOf } from '../ruleSheet';

/** Every page has the paper size asked for. Null when none is asked. */
export function pageSize({ sheet, packet, evidence }: PagesInput): Finding | null {
	const asked = sheet.pages?.size;
	if (!asked) return null;
	const other = packet.strip.flatMap((page, i) => {
		const facts = evidence[page]?.prepared;
		return facts && facts.size !== asked ? [{ page, position: i + 1, size: facts.size }] : [];
	});
	if (other.length === 0) return { rule: 'pageSize', level: 'clear', message: asked, pages: [] };
	const positions = other.map((o) => o.position);
	return {
		rule: 'pageSize',
		level: levelOf(sheet, 'pageSize'),
		message: `${capital(namePages(positions))} ${
			positions.length === 1 ? 'has' : 'have'
		} not the proportions of ${asked}: the corners may be off.`,
		pages: positions,
		fix: { label: `Check the corners of page ${positions[0]}`, task: 'square', page: other[0]!.page }
	};
}
