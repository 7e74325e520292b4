import { inOrder, splitAmong, type AnswerOrder } from './codes';
import { cutOutsOf, type CutOut, type MappedQuestion } from './cutOuts';

/** When what lies around a cut-out is shown in grey: always, never, or where it is not sure where the answer ends. */
export const AROUND = ['unsure', 'always', 'never'] as const;

/** How bundles are made. */
export interface BundleOptions {
	readonly order: AnswerOrder;
	/** For the random order: the same again makes the same. */
	readonly seed: string;
	/** The answers are split among so many. */
	readonly graders: number;
	/** Whether names are hidden. */
	readonly hidden: boolean;
	readonly around: (typeof AROUND)[number];
	/** Every answer has pages of its own. */
	readonly apart: boolean;
}

/** Seams that are less sure show what lies around them. */
const SURE_SEAM = 0.9;

/** A packet with the code that stands for its person. */
export interface CodedPacket {
	readonly code: string;
	readonly map: readonly MappedQuestion[];
}

export interface PlannedAnswer<P> {
	readonly packet: P;
	readonly cutOuts: readonly (CutOut & { readonly around: boolean })[];
	readonly confidence: number;
}

/** One question's bundle: what stands in which file. */
export interface BundlePlan<P> {
	readonly files: readonly { readonly name: string; readonly answers: readonly PlannedAnswer<P>[] }[];
	/** Packets in which nothing answers the question. */
	readonly without: readonly P[];
}

/** @param packets in the order of the roster */
export function planBundle<P extends CodedPacket>(
	question: string,
	packets: readonly P[],
	{ order, seed, graders, around }: Pick<BundleOptions, 'order' | 'seed' | 'graders' | 'around'>
): BundlePlan<P> {
	const all = packets.map((packet) => {
		const { cutOuts, confidence } = cutOutsOf(question, packet.map);
		const shown = around === 'always' || (around === 'unsure' && confidence < SURE_SEAM);
		return {
			code: packet.code,
			packet,
			confidence,
			cutOuts: cutOuts.map((cutOut) => ({ ...cutOut, around: shown }))
		};
	});
	const answered = all.filter((a) => a.cutOuts.length > 0);
	const shares = splitAmong(inOrder(answered, order, `${seed}\n${question}`), graders);
	return {
		files: shares.map((answers, i) => ({
			name: `question-${question}${shares.length > 1 ? `-part-${i + 1}-of-${shares.length}` : ''}.pdf`,
			answers: answers.map(({ packet, cutOuts, confidence }) => ({ packet, cutOuts, confidence }))
		})),
		without: all.filter((a) => a.cutOuts.length === 0).map((a) => a.packet)
	};
}
