/** A part of one page of a packet that answers a question. */
export interface CutOut {
	/** From 1. */
	readonly position: number;
	/** Fractions of the page's height. */
	readonly top: number;
	readonly bottom: number;
}

/** What a packet's map says of one question. */
export interface MappedQuestion {
	readonly question: string;
	readonly stretches: readonly CutOut[];
	readonly confidence: number;
}

/** Slivers this thin are what is left between two seams. */
const LEAST = 0.004;

/**
 * Everything in a packet that answers a question, its parts included, in reading order; what answers several parts stands
 * there once.
 *
 * @param question as in the map: "3" takes in 3a and 3b
 * @returns no cut-outs where nothing answers it
 */
export function cutOutsOf(
	question: string,
	map: readonly MappedQuestion[]
): { cutOuts: CutOut[]; confidence: number } {
	const own = map.filter((m) => isPartOf(m.question, question));
	const pieces = own
		.flatMap((m) => m.stretches)
		.sort((a, b) => a.position - b.position || a.top - b.top || a.bottom - b.bottom);
	const cutOuts: CutOut[] = [];
	for (const { position, top, bottom } of pieces) {
		const last = cutOuts.at(-1);
		if (last?.position === position && top <= last.bottom + LEAST) {
			cutOuts[cutOuts.length - 1] = { ...last, bottom: Math.max(last.bottom, bottom) };
		} else if (bottom - top > LEAST) cutOuts.push({ position, top, bottom });
	}
	return { cutOuts, confidence: own.reduce((least, m) => Math.min(least, m.confidence), 1) };
}

/** Whether a question is another one or one of its parts: "3b" of "3", not "31". */
export function isPartOf(question: string, whole: string): boolean {
	return question === whole || (question.startsWith(whole) && /^[a-z]/.test(question.slice(whole.length)));
}
