import { MOST_QUESTIONS } from './labelForms';
import type { LinePosterior } from './linePosterior';
import { scoreStrings, type Scored } from './scoreStrings';
import { addTo, emptyTrie, type Trie } from './trie';

/** "3.1", "0,4", "29.8", "7:51": what begins like the label of question 3, 0, 2g or 7, and is a value or a time. */
function fractions(): Trie<true> {
	const trie = emptyTrie<true>();
	for (let whole = 0; whole < 100; whole++) {
		for (const point of ['.', ',', ':']) {
			for (let first = 0; first < 10; first++) addTo(trie, `${whole}${point}${first}`, true, 1);
		}
	}
	return trie;
}

/** "(54)", "[21]", "37.": numbers of a list of sources, of clauses, of formulas; questions have lower ones. */
function highNumbers(): Trie<true> {
	const trie = emptyTrie<true>();
	for (let number = MOST_QUESTIONS + 1; number < 100; number++) {
		for (const before of ['', '(', '[']) addTo(trie, `${before}${number}`, true, 1);
	}
	return trie;
}

/**
 * How likely a line begins with a number that has a fraction or a time, 0 to 1, letter by letter as a label is read: the two are
 * rivals, and what was read best may have lost the point or a digit.
 */
export const valueChance = chanceOf(fractions, ({ whole, parted, joined }) => whole + parted + joined);

/** How likely a line begins with a number that is too high for a question's, 0 to 1: "(54)" is the rival of "(5a)". */
export const highNumberChance = chanceOf(
	highNumbers,
	({ whole, parted, joinedDigit }) => whole + parted + joinedDigit
);

function chanceOf(
	strings: () => Trie<true>,
	chance: (one: Scored<true>) => number
): (line: LinePosterior) => number {
	let trie: Trie<true> | null = null;
	// The same places are looked at once before and once after second opinions.
	const known = new WeakMap<LinePosterior, number>();
	return (line) => {
		let sum = known.get(line);
		if (sum === undefined) {
			trie ??= strings();
			sum = scoreStrings(line, trie).reduce((all, one) => all + chance(one), 0);
			known.set(line, (sum = Math.min(1, sum)));
		}
		return sum;
	};
}
