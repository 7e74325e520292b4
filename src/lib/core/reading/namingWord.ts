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
import { addTo, emptyTrie, type Trie } from './trie';

/** What stands behind a word that names a question or a page, and how much speaks for the word. */
export interface BehindWord {
	readonly line: LinePosterior;
	/** Logarithm of how much likelier what is read there is under the word than under any letters. */
	readonly evidence: number;
	/** Logarithm of how much less likely the word is than what is read best there. */
	readonly likely: number;
}

/** Of any letters one in so many is the right one by chance. */
const BY_CHANCE = 20;
/** A word as likely as this, for each letter, was not misread. */
const AS_WRITTEN = -0.1;
/** A letter may be surely misread: but where nothing stands, there is none. */
const FLOOR = 0.002;
const MOSTLY = 0.5;
/** No such word is longer than so many steps of a line. */
const STEPS = 48;
const LEAST = 1e-18;

/** Words that a line may begin with, and that a number follows. */
export interface NamingWords {
	readonly words: Trie<{ readonly letters: number; readonly several: boolean }>;
	readonly shortest: number;
	/** Less evidence than this is none: other words stand there too. */
	readonly least: number;
}

/**
 * @param words in small letters
 * @param ends what may follow them
 */
function namingWords(words: readonly string[], ends: string, least: number): NamingWords {
	const trie = emptyTrie<{ readonly letters: number; readonly several: boolean }>();
	for (const word of words) {
		for (const end of ends) {
			addTo(trie, word + end, { letters: word.length, several: false }, 1);
			addTo(trie, `${word}s${end}`, { letters: word.length, several: true }, 1);
		}
	}
	return { words: trie, shortest: Math.min(...words.map((word) => word.length)), least };
}

const DIGITS = '0123456789';
/** Of other words one in a hundred and fifty is taken for one that names a question. */
const QUESTION_WORDS = namingWords(LONG_WORDS, ` ${DIGITS}`, 5);
/**
 * Words before a page's number; they are short, and little speaks for them. Of a single p nothing is left where it is
 * misread.
 */
export const PAGE_WORDS = namingWords(['pg', 'page', 'sheet', 'seite'], ` .${DIGITS}`, 2.5);

/**
 * What stands behind a word that a line begins with, where that was misread: "7aox 9" for "TASK 9". The word is weighed
 * letter by letter, by all that each may be, and not by what is read best. Where it is several that are named, none of
 * them is: "Answers 1 to 4".
 *
 * @param letters its best path
 * @returns null where there is no such word, where it is read well (it is found by itself), or nothing stands behind it
 */
export function behindNamingWord(
	line: LinePosterior,
	letters: readonly BestCharacter[] = bestCharacters(line),
	{ words, shortest, least }: NamingWords = QUESTION_WORDS
): BehindWord | null {
	if (letters.length <= shortest) return null;
	const begins = withDoubt(part(line, 0, Math.min(line.steps, STEPS)));
	const best = bestPath(begins);
	let found: { likely: number; evidence: number; letters: number; several: boolean; from: number } | null =
		null;
	for (const { value, text, whole, parted, joined, end } of scoreStrings(begins, words, STEPS, LEAST)) {
		const likely = Math.log(Math.max(LEAST, whole + parted + joined)) - best[Math.min(end, begins.steps)]!;
		const evidence = likely + value.letters * Math.log(BY_CHANCE);
		if (evidence <= (found?.evidence ?? least)) continue;
		found = {
			likely,
			evidence,
			...value,
			from: /\d$/.test(text) ? end - 1 : end
		};
	}
	if (!found || found.several || found.likely >= AS_WRITTEN * found.letters) return null;
	const { from, evidence, likely } = found;
	const behind = letters.find((l) => l.step >= from && l.character !== ' ');
	return behind ? { line: part(line, behind.step, line.steps), evidence, likely } : null;
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
