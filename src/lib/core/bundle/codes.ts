/** Letters and digits that are not mistaken for each other, and make no words. */
const SIGNS = '2346789BCDFGHJKMNPQRTVWXYZ';
const LENGTH = 4;

/**
 * A code that stands for a person: it says nothing of them, and nobody can work it out from their name or number.
 *
 * @param taken codes that others have
 * @param random cryptographic, from 0 up to 1
 */
export function newCode(taken: ReadonlySet<string>, random: () => number): string {
	for (let length = LENGTH; ; length++) {
		for (let tries = 0; tries < 50; tries++) {
			const code = Array.from({ length }, () => SIGNS[Math.floor(random() * SIGNS.length)]!).join('');
			if (!taken.has(code)) return code;
		}
	}
}

/** In which order the answers of a bundle stand. */
export type AnswerOrder = 'roster' | 'random' | 'code';
export const ANSWER_ORDERS: readonly AnswerOrder[] = ['roster', 'random', 'code'];

/**
 * Puts answers in order. Random is the same again for the same seed and question, and another for each question, so that
 * nobody is always graded first.
 *
 * @param answers in the order of the roster
 */
export function inOrder<A extends { readonly code: string }>(
	answers: readonly A[],
	order: AnswerOrder,
	seed: string
): A[] {
	switch (order) {
		case 'roster':
			return [...answers];
		case 'code':
			return [...answers].sort((a, b) => (a.code < b.code ? -1 : 1));
		case 'random': {
			const rank = new Map(answers.map(({ code }) => [code, hash(`${seed}\n${code}`)]));
			return [...answers].sort((a, b) => rank.get(a.code)! - rank.get(b.code)! || (a.code < b.code ? -1 : 1));
		}
	}
}

/** Splits answers among graders, one after the other, no share larger than another by more than one. */
export function splitAmong<A>(answers: readonly A[], graders: number): A[][] {
	const shares = Math.max(1, Math.min(graders, answers.length));
	return Array.from({ length: shares }, (_, i) =>
		answers.slice(Math.round((i * answers.length) / shares), Math.round(((i + 1) * answers.length) / shares))
	);
}

/** 53 bits of a text, evenly spread (cyrb53). */
function hash(text: string): number {
	let a = 0xdeadbeef;
	let b = 0x41c6ce57;
	for (let i = 0; i < text.length; i++) {
		const c = text.charCodeAt(i);
		a = Math.imul(a ^ c, 2654435761);
		b = Math.imul(b ^ c, 1597334677);
	}
	a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909);
	b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909);
	return 4294967296 * (2097151 & b) + (a >>> 0);
}
