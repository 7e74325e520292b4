import { Random } from '../../demo/generator/random';
import { readShort } from '../../src/lib/server/reader/readShort';
import { digitsOf } from '../../training/digits';
import { handsOf, type Part } from '../../training/hands';
import { drawSample } from '../../training/sample';

/** Samples that are drawn and read at a time. */
const AT_ONCE = 256;
/** What was seen less often is chance, and what counts less is not worth looking for. */
const LEAST_SEEN = 4;
const LEAST_SHARE = 0.01;

/** One letter as it was written, and as what it was read; null where it was not seen, or where none stood. */
type Pair = readonly [written: string | null, read: string | null];

/** Letters of two strings beside each other, with as few that differ as possible (Levenshtein 1966). */
export function alignLetters(written: string, read: string): Pair[] {
	const [n, m] = [written.length, read.length];
	const cost = Array.from({ length: n + 1 }, (_, i) =>
		Array.from({ length: m + 1 }, (_, j) => (i === 0 ? j : j === 0 ? i : 0))
	);
	const swap = (i: number, j: number) => cost[i - 1]![j - 1]! + (written[i - 1] === read[j - 1] ? 0 : 1);
	for (let i = 1; i <= n; i++) {
		for (let j = 1; j <= m; j++) {
			cost[i]![j] = Math.min(swap(i, j), cost[i - 1]![j]! + 1, cost[i]![j - 1]! + 1);
		}
	}
	const pairs: Pair[] = [];
	let [i, j] = [n, m];
	while (i > 0 || j > 0) {
		if (i > 0 && j > 0 && cost[i]![j] === swap(i, j)) pairs.push([written[--i]!, read[--j]!]);
		else if (i > 0 && cost[i]![j] === cost[i - 1]![j]! + 1) pairs.push([written[--i]!, null]);
		else pairs.push([null, read[--j]!]);
	}
	return pairs.reverse();
}

/**
 * How often each letter is taken for each other, beside how often that one is read where it stands: what a reading of one
 * counts for the other. Prints the lines of `confusions.ts`.
 */
export async function fitConfusions(
	part: Part,
	samples: number,
	firstSeed: number,
	print: (line: string) => void
): Promise<void> {
	const counts = new Map<string, number>();
	const add = (key: string) => counts.set(key, (counts.get(key) ?? 0) + 1);
	const [hands, digits] = [handsOf(part), digitsOf(part)];
	for (let at = 0; at < samples; at += AT_ONCE) {
		const drawn = Array.from({ length: Math.min(AT_ONCE, samples - at) }, (_, i) =>
			drawSample(new Random(firstSeed + at + i), hands, digits)
		);
		const read = await readShort(drawn.map((one) => one.crop));
		drawn.forEach(({ text }, i) => {
			for (const [written, seen] of alignLetters(text, read[i]!.text)) {
				if (written === null || written === ' ') continue;
				add(written);
				if (seen !== null && seen !== ' ') add(written + seen);
			}
		});
	}
	const share = (written: string, read: string) =>
		(counts.get(written + read) ?? 0) / (counts.get(written) ?? Infinity);
	const letters = [...counts.keys()].filter((key) => key.length === 1).sort();
	for (const written of letters) {
		const others = letters.flatMap((read): string[] => {
			const weight = share(written, read) / share(read, read);
			const isSeen = read !== written && (counts.get(written + read) ?? 0) >= LEAST_SEEN;
			return isSeen && weight >= LEAST_SHARE ? [`['${read}', ${weight.toFixed(2)}]`] : [];
		});
		if (others.length > 0) print(`'${written}': [${others.join(', ')}],`);
	}
}
