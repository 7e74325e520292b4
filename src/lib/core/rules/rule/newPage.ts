import { stretchesOf } from '../../mapping/stretches';
import { list, type PagesInput, type Finding } from '../finding';
import { answerables } from '../../assignment/question';
import { levelOf } from '../ruleSheet';

/** A seam in the top part of a page still counts as the page's beginning. */
const TOP = 0.18;

/** Questions that ask for a page of their own begin at the top of one. Null when none asks. */
export function newPage({ sheet, packet }: PagesInput): Finding | null {
	const asked = answerables(sheet.questions)
		.filter((q) => q.newPage)
		.map((q) => q.id);
	if (asked.length === 0) return null;
	const seen = new Set<string>();
	for (const { questions, pieces } of stretchesOf(packet)) {
		const piece = pieces[0]!;
		const late = questions.find((q) => asked.includes(q) && !seen.has(q) && piece.top > TOP);
		questions.forEach((q) => seen.add(q));
		if (late) {
			return {
				rule: 'newPage',
				level: levelOf(sheet, 'newPage'),
				message: `Question ${late} is to begin on a new page; it begins part way down page ${piece.position}.`,
				pages: [piece.position],
				fix: { label: 'Show the place', task: 'map', page: piece.page }
			};
		}
	}
	return {
		rule: 'newPage',
		level: 'clear',
		message: `${list(asked)} on a new page`,
		pages: []
	};
}
