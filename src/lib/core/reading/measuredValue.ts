import type { LinePosterior } from './linePosterior';
import { scoreStrings } from './scoreStrings';
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

let trie: Trie<true> | null = null;
/** The same places are looked at once before and once after second opinions. */
const known = new WeakMap<LinePosterior, number>();

/**
 * How likely a line begins with a number that has a fraction or a time, 0 to 1, letter by letter as a label is read: the two are
 * rivals, and what was read best may have lost the point or a digit.
 */
export function valueChance(line: LinePosterior): number {
	let chance = known.get(line);
	if (chance === undefined) {
		trie ??= fractions();
		const sum = scoreStrings(line, trie).reduce(
			(s, { whole, parted, joined }) => s + whole + parted + joined,
			0
		);
		known.set(line, (chance = Math.min(1, sum)));
	}
	return chance;
}
