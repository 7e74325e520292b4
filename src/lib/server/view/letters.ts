import type { ReturnReason } from '../../core/packet/returned';
import { formatDue } from '../../core/rules/dueTime';
import type { PacketAccess } from '../access/access';
import type { Services } from '../services/services';
import { ruleSheetOf, type Assignment } from '../store/assignments';

export interface Letter {
	readonly subject: string;
	readonly text: string;
}

/** Has a letter sent; false where there is no mail server, or the person has no address. */
export async function addLetter(
	{ queue, targets }: Pick<Services, 'queue' | 'targets'>,
	to: { readonly id: string; readonly email: string | null },
	letter: Letter
): Promise<boolean> {
	if (!targets.mail || !to.email) return false;
	await queue.add('send-letter', { personId: to.id, ...letter });
	return true;
}

/** That a packet was given back, and why. */
export function returnLetter(
	{ packet, assignment, owner, me }: PacketAccess,
	{ reasons, words }: { readonly reasons: readonly ReturnReason[]; readonly words: string },
	origin: string
): Letter {
	const { title } = assignment.ruleSheet;
	const { due } = ruleSheetOf(assignment, packet);
	const lines = reasons.map((r) => {
		const position = r.page ? packet.state.strip.indexOf(r.page) + 1 : 0;
		return `- ${position > 0 ? `Page ${position}: ` : ''}${r.text}`;
	});
	return {
		subject: `Given back: ${title}`,
		text: [
			`Hello ${owner.given || owner.family},`,
			`${me.given} ${me.family} has given back your pages for “${title}” (${assignment.courseCode}). Mend what is named, and hand in again.`,
			...(lines.length > 0 ? [lines.join('\n')] : []),
			...(words ? [words] : []),
			...(due ? [`It is due ${formatDue(due)}.`] : []),
			`${origin}/packets/${packet.id}/gather\n`
		].join('\n\n')
	};
}

/** That something is still to be handed in. */
export function reminderLetter(
	{ ruleSheet, courseCode }: Pick<Assignment, 'ruleSheet' | 'courseCode'>,
	to: { readonly given: string; readonly family: string },
	by: { readonly given: string; readonly family: string },
	{ words, missing }: { readonly words: string; readonly missing: string },
	origin: string
): Letter {
	const due = ruleSheet.due ? ` It is due ${formatDue(ruleSheet.due)}.` : '';
	return {
		subject: `Still to be handed in: ${ruleSheet.title}`,
		text: [
			`Hello ${to.given || to.family},`,
			`nothing has come in from you yet for “${ruleSheet.title}” (${courseCode}).${due}`,
			...(missing ? [missing] : []),
			...(words ? [words] : []),
			`${origin}/`,
			`${by.given} ${by.family}\n`
		].join('\n\n')
	};
}
