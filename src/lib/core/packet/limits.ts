import { MARK_LIMITS } from '../marks/mark';
import type { Packet } from './packet';

/** What one packet may hold: far above what anybody hands in, far below what slows others down. */
export const PACKET_LIMITS = {
	pages: 1_000,
	seams: 1_000,
	/** Questions that one seam names. */
	questionsOfSeam: 60,
	/** Questions named by all seams together. */
	questionsOfSeams: 4_000,
	/** Questions said not to have been attempted. */
	notAttempted: 500,
	/** Things added by hand to one page, and to all pages together. */
	marksOfPage: MARK_LIMITS.marks,
	marks: 3_000,
	/** Proposals put away. */
	declined: 2_000,
	/** Lines of its history. */
	history: 20_000
} as const;

/** What a packet holds too much of, as a sentence; null where all is within the limits. */
export function overLimits({ pages, seams, notAttempted, declined = [] }: Packet): string | null {
	const named = seams.reduce((sum, seam) => sum + seam.questions.length, 0);
	const most = Math.max(0, ...seams.map((seam) => seam.questions.length));
	const marks = Object.values(pages).map((page) => page.marks?.length ?? 0);
	const held: readonly (readonly [count: number, limit: number, of: string])[] = [
		[Object.keys(pages).length, PACKET_LIMITS.pages, 'pages'],
		[seams.length, PACKET_LIMITS.seams, 'seams'],
		[most, PACKET_LIMITS.questionsOfSeam, 'questions on one seam'],
		[named, PACKET_LIMITS.questionsOfSeams, 'questions on its seams'],
		[notAttempted.length, PACKET_LIMITS.notAttempted, 'questions not attempted'],
		[Math.max(0, ...marks), PACKET_LIMITS.marksOfPage, 'things added to one page'],
		[marks.reduce((a, b) => a + b, 0), PACKET_LIMITS.marks, 'things added to its pages'],
		[declined.length, PACKET_LIMITS.declined, 'proposals put away']
	];
	const over = held.find(([count, limit]) => count > limit);
	return over ? `A packet holds at most ${over[1]} ${over[2]}; this would make it ${over[0]}.` : null;
}
