import { stretchesOf } from '../../mapping/stretches';
import type { Finding, PagesInput } from '../finding';
import { answerables } from '../../assignment/question';
import { levelOf } from '../ruleSheet';
import { readOrderFix } from './readOrder';

/** Stretches follow the assignment's order. */
export function questionOrder(input: PagesInput): Finding {
	const { sheet, packet } = input;
	const rank = new Map(answerables(sheet.questions).map((q, i) => [q.id, i]));
	let last = -1;
	let lastName = '';
	for (const stretch of stretchesOf(packet)) {
		for (const question of stretch.questions) {
			const r = rank.get(question);
			if (r === undefined) continue;
			if (r < last) {
				const piece = stretch.pieces[0]!;
				return {
					rule: 'questionOrder',
					level: levelOf(sheet, 'questionOrder'),
					message: `On page ${piece.position}, ${question} comes after ${lastName}.`,
					pages: [piece.position],
					// Where no order of the pages mends it, it is the place that is wrong.
					fix: readOrderFix(input, { label: `Look where ${question} begins`, task: 'map', page: piece.page })
				};
			}
			last = r;
			lastName = question;
		}
	}
	return {
		rule: 'questionOrder',
		level: 'clear',
		message: 'As in the assignment',
		pages: []
	};
}
