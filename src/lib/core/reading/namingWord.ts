import { LONG_WORDS } from './labelForms';
import {
	bestCharacters,
	bestPath,
	CLASSES,
	isWordClass,
	NOTHING,
	part,
	type BestCharacter,
	type LinePosterior
} from './linePosterior';
import { scoreStrings } from './scoreStrings';
import { addTo, emptyTrie } from './trie';

/** What stands behind a word that names a question, and how much speaks for the word. */
export interface BehindWord {
	readonly line: LinePosterior;
	/** Logarithm of how much likelier what is read there is under the word than under any letters. */
	readonly evidence: number;
}

/** Of any letters one in so many is the right one by chance. */
const BY_CHANCE = 20;
/** Of other words one in a hundred and fifty is taken for it. */
const LEAST_EVIDENCE = 5;
/** A word as likely as this, for each letter, was not misread. */
const AS_WRITTEN = -0.1;
/** A letter may be surely misread: but where nothing stands, there is none. */
const FLOOR = 0.002;
const MOSTLY = 0.5;
/** No word that names a question is longer than so many steps of a line. */
const STEPS = 48;
const LEAST = 1e-18;

/** How a line may begin; where it is several that are named, none of them is: "Answers 1 to 4". */
const WORDS = emptyTrie<{ readonly letters: number; readonly several: boolean }>();
for (const word of LONG_WORDS) {
	for (const end of ' 0123456789') {
		addTo(WORDS, word + end, { letters: word.length, several: false }, 1);
		addTo(WORDS, `${word}s${end}`, { letters: word.length, several: true }, 1);
	}
}
const SHORTEST = Math.min(...LONG_WORDS.map((word) => word.length));

/**
 * What stands behind a word that names a question, where the line begins with one that was misread: "7aox 9" for "TASK 9".
 * The word is weighed letter by letter, by all that each may be, and not by what is read best.
 *
 * @param letters its best path
 * @returns null where there is no such word, where it is read well (it is found by itself), or nothing stands behind it
 */
export function behindNamingWord(
	line: LinePosterior,
	letters: readonly BestCharacter[] = bestCharacters(line)
): BehindWord | null {
	if (letters.length <= SHORTEST) return null;
	const begins = withDoubt(part(line, 0, Math.min(line.steps, STEPS)));
	const best = bestPath(begins);
	let found: { likely: number; evidence: number; several: boolean; from: number } | null = null;
	for (const { value, text, whole, parted, joined, end } of scoreStrings(begins, WORDS, STEPS, LEAST)) {
		const likely = Math.log(Math.max(LEAST, whole + parted + joined)) - best[Math.min(end, begins.steps)]!;
		const evidence = likely + value.letters * Math.log(BY_CHANCE);
		if (evidence <= (found?.evidence ?? LEAST_EVIDENCE)) continue;
		found = {
			likely: likely / value.letters,
			evidence,
			several: value.several,
			from: text.endsWith(' ') ? end : end - 1
		};
	}
	if (!found || found.several || found.likely >= AS_WRITTEN) return null;
	const { from, evidence } = found;
	const behind = letters.find((l) => l.step >= from && l.character !== ' ');
	return behind ? { line: part(line, behind.step, line.steps), evidence } : null;
}

/**
 * Whether one cut of a place holds no more than a word, or the letter for one, and a wider cut has a number behind it:
 * "Problem" by itself tells nothing where the line begins with "Problem 8", however the word was read.
 */
export function isWordBeforeNumber(cut: string, wider: string): boolean {
	const isWord = /^[^ ]+$/.test(cut) && (/^q\W*$/i.test(cut) || cut.replace(/[^a-z]/gi, '').length >= 2);
	return isWord && /^[^ ]+ \W?\d/.test(wider);
}

/** With no letter wholly ruled out where one stands. */
function withDoubt({ steps, data, caseless }: LinePosterior): LinePosterior {
	const raised = new Float32Array(data);
	for (let t = 0; t < steps; t++) {
		if (data[t * CLASSES + NOTHING]! >= MOSTLY) continue;
		for (let k = 0; k < CLASSES; k++) {
			if (k === NOTHING || isWordClass(k))
				raised[t * CLASSES + k] = Math.max(FLOOR, raised[t * CLASSES + k]!);
		}
	}
	return { steps, data: raised, caseless };
}
