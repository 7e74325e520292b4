import { CLASSES, FIRST_CODE, NOTHING, part, type LinePosterior } from './linePosterior';
import { similarity } from './similarity';

/** Words before a question's number that are long enough to be known although some letters are misread. */
const WORDS = ['question', 'exercise', 'problem', 'answer', 'task'] as const;
/** From this likeness on, and short of the same letters, which are found by themselves. */
const ALIKE = 0.6;
const SAME = 0.99;
/** A word that goes on is less like it by this. */
const CUT_OFF = 0.2;
/** Shorter words have others that are like them ("ask", "mask"): they were misread only where their letters are less sure. */
const LONG = 7;
const UNSURE = 0.9;

/**
 * What stands behind a word that names a question, where the line begins with one that was misread: "Exerrist 12". A long
 * word is known by its shape, and what it names is read by itself.
 *
 * @returns null where there is no such word, or nothing behind it
 */
export function behindNamingWord(line: LinePosterior): LinePosterior | null {
	const letters = bestPath(line);
	const text = letters.map((l) => l.character.toLowerCase()).join('');
	let best: { likeness: number; length: number } | null = null;
	// "Answers 1 to 4" names none of them.
	if (WORDS.some((word) => text.startsWith(`${word}s`))) return null;
	for (const word of WORDS) {
		for (let length = word.length - 1; length <= word.length + 1 && length < text.length; length++) {
			const less = /[a-z]/.test(text[length]!) ? CUT_OFF : 0;
			const likeness = similarity(text.slice(0, length).trim(), word) - less;
			const isMisread = word.length >= LONG || meanOf(letters.slice(0, length).map((l) => l.sure)) < UNSURE;
			if (isMisread && likeness > (best?.likeness ?? 0)) best = { likeness, length };
		}
	}
	if (!best || best.likeness < ALIKE || best.likeness > SAME) return null;
	const behind = letters.slice(best.length).find((l) => l.character !== ' ');
	return behind ? part(line, behind.step, line.steps) : null;
}

const meanOf = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / Math.max(1, values.length);

/** Characters by best path, each with the step at which it begins, and how sure it is there. */
export function bestPath({
	steps,
	data
}: LinePosterior): { character: string; step: number; sure: number }[] {
	const found: { character: string; step: number; sure: number }[] = [];
	let before: number = NOTHING;
	for (let step = 0; step < steps; step++) {
		let best: number = NOTHING;
		for (let k = 0; k < CLASSES; k++) if (data[step * CLASSES + k]! > data[step * CLASSES + best]!) best = k;
		if (best !== before && best !== NOTHING) {
			const sure = data[step * CLASSES + best]!;
			found.push({ character: String.fromCharCode(FIRST_CODE - 1 + best), step, sure });
		}
		before = best;
	}
	return found;
}
