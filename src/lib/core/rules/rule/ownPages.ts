import type { Change } from '../../packet/change';
import { questionId } from '../../assignment/question';
import { capital, list, namePages, plural, type PagesInput, type Finding } from '../finding';
import { levelOf } from '../ruleSheet';

/** A label of a question that is not asked counts from this probability on. */
const SURE_LABEL = 0.7;

/** Every page is the person's own and belongs to this assignment. */
export function ownPages({ sheet, packet, evidence }: PagesInput): Finding {
	const foreign = packet.strip.flatMap((page, i) => {
		const name = evidence[page]?.otherPerson;
		return name ? [{ page, position: i + 1, name }] : [];
	});
	const broken = { rule: 'ownPages', level: levelOf(sheet, 'ownPages') } as const;
	if (foreign.length > 0) {
		const look: Finding['fix'] = { label: 'Look at the pages', task: 'order', page: foreign[0]!.page };
		const names = [...new Set(foreign.map((f) => f.name))];
		const changes = foreign.map(({ page }, k): Change => ({
			kind: 'place',
			page,
			to: { on: 'tray', index: packet.tray.length + k, reason: 'extra' }
		}));
		return {
			...broken,
			message: `${capital(namePages(foreign.map((f) => f.position)))} ${foreign.length === 1 ? 'carries' : 'carry'} the name ${list(names)}.`,
			pages: foreign.map((f) => f.position),
			fix:
				foreign.length > packet.strip.length / 2
					? look
					: {
							label: `Set ${foreign.length === 1 ? 'it' : 'them'} aside`,
							task: 'order',
							page: foreign[0]!.page,
							change: { kind: 'together', changes }
						}
		};
	}
	const asked = new Set(sheet.questions.map((q) => questionId(q.label)));
	const others = packet.strip.flatMap((page, i) => {
		const labels = evidence[page]?.reading?.labels ?? [];
		return labels.flatMap(({ options: [best] }) =>
			best?.question && best.probability >= SURE_LABEL && !asked.has(best.question)
				? [{ page, position: i + 1, question: best.question }]
				: []
		);
	});
	if (others.length > 0) {
		const { page, position, question } = others[0]!;
		return {
			...broken,
			message: `Page ${position} is labelled ${question}; this assignment has ${plural(sheet.questions.length, 'question')} and none of that number.`,
			pages: [position],
			fix: { label: 'Look at the page', task: 'order', page }
		};
	}
	return { rule: 'ownPages', level: 'clear', message: 'Nothing on them says otherwise', pages: [] };
}
