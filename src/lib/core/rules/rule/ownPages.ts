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
		return name ? [{ page, position: i + 1, name, isSaid: packet.pages[page]?.own === true }] : [];
	});
	const unsaid = foreign.filter((f) => !f.isSaid);
	const broken = { rule: 'ownPages', level: levelOf(sheet, 'ownPages') } as const;
	if (unsaid.length > 0) {
		const look: Finding['fix'] = { label: 'Look at the pages', task: 'order', page: unsaid[0]!.page };
		const changes = unsaid.map(({ page }, k): Change => ({
			kind: 'place',
			page,
			to: { on: 'tray', index: packet.tray.length + k, reason: 'extra' }
		}));
		return {
			...broken,
			message: `${carrying(unsaid)}.`,
			pages: unsaid.map((f) => f.position),
			fix:
				unsaid.length > packet.strip.length / 2
					? look
					: {
							label: `Set ${unsaid.length === 1 ? 'it' : 'them'} aside`,
							task: 'order',
							page: unsaid[0]!.page,
							change: { kind: 'together', changes }
						},
			otherwise: {
				label: unsaid.length === 1 ? 'It belongs here' : 'They belong here',
				task: 'order',
				page: unsaid[0]!.page,
				change: { kind: 'setOwn', pages: unsaid.map((f) => f.page), own: true }
			}
		};
	}
	if (foreign.length > 0) {
		// Whoever receives it is told; a name that was misread does not hold anybody up.
		return {
			rule: 'ownPages',
			level: 'look',
			message: `${carrying(foreign)}, as it was read, and ${foreign.length === 1 ? 'is' : 'are'} said to be this packet’s own.`,
			pages: foreign.map((f) => f.position),
			fix: {
				label: 'Take that back',
				task: 'order',
				page: foreign[0]!.page,
				change: { kind: 'setOwn', pages: foreign.map((f) => f.page), own: false }
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

/** "Pages 2 and 3 carry the name …". */
function carrying(pages: readonly { readonly position: number; readonly name: string }[]): string {
	const names = [...new Set(pages.map((f) => f.name))];
	const verb = pages.length === 1 ? 'carries' : 'carry';
	return `${capital(namePages(pages.map((f) => f.position)))} ${verb} the name ${list(names)}`;
}
