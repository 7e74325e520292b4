import { LONG_WORDS } from './labelForms';
import { bestCharacters, part, type BestCharacter, type LinePosterior } from './linePosterior';
import { similarity } from './similarity';

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
 * @param letters its best path
 * @returns null where there is no such word, or nothing behind it
 */
export function behindNamingWord(
	line: LinePosterior,
	letters: readonly BestCharacter[] = bestCharacters(line)
): LinePosterior | null {
	const text = letters.map((l) => l.character.toLowerCase()).join('');
	let best: { likeness: number; length: number } | null = null;
	// "Answers 1 to 4" names none of them.
	if (LONG_WORDS.some((word) => text.startsWith(`${word}s`))) return null;
	for (const word of LONG_WORDS) {
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
