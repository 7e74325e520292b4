import { confirmSeams, proposeSeams, UNSURE } from '../../mapping/proposeSeams';
import { piecesByQuestion, stretchesOf } from '../../mapping/stretches';
import { list, plural, type PagesInput, type Finding } from '../finding';
import { answerables } from '../../assignment/question';
import { levelOf } from '../ruleSheet';

/** Every question has a stretch, or the student says it was not attempted. */
export function allAnswered({ sheet, packet, evidence }: PagesInput): Finding {
	const pieces = piecesByQuestion(stretchesOf(packet));
	const ids = answerables(sheet.questions).map((q) => q.id);
	const open = ids.filter((id) => !pieces.has(id) && !packet.notAttempted.includes(id));
	const both = ids.filter((id) => pieces.has(id) && packet.notAttempted.includes(id));
	if (open.length > 0) {
		return {
			rule: 'allAnswered',
			level: levelOf(sheet, 'allAnswered'),
			message:
				open.length === ids.length
					? 'No question has been placed on the pages yet.'
					: `Nothing is placed for ${list(open)}.`,
			pages: [],
			fix: proposed() ?? { label: `Place question ${open[0]}`, task: 'map' }
		};
	}
	if (both.length > 0) {
		return {
			rule: 'allAnswered',
			level: 'look',
			message: `${list(both)} is marked not attempted, but work is placed for it.`,
			pages: [],
			fix: {
				label: 'Take the mark away',
				task: 'map',
				change: {
					kind: 'together',
					changes: both.map((question) => ({ kind: 'setAttempted', question, attempted: true }))
				}
			}
		};
	}
	const skipped = packet.notAttempted.filter((id) => ids.includes(id));
	const answered = ids.filter((id) => pieces.has(id));
	return {
		rule: 'allAnswered',
		level: 'clear',
		message: skipped.length
			? `${list(answered) || 'None'} placed; ${list(skipped)} not attempted`
			: list(answered),
		pages: []
	};

	/** Takes the seams that were surely read off the pages, when some of them place what is open. */
	function proposed(): Finding['fix'] | null {
		const pages = packet.strip.map((page) => ({ page, reading: evidence[page]?.reading ?? null }));
		const seams = proposeSeams(sheet.questions, pages, packet.seams, packet.declined).filter(
			(s) => s.confidence >= UNSURE
		);
		if (!seams.some((s) => s.questions.some((q) => open.includes(q)))) return null;
		return {
			label: `Place ${plural(seams.length, 'seam')} as read off the pages`,
			task: 'map',
			change: confirmSeams(seams)
		};
	}
}
