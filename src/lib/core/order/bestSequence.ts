/** A sequence and how sure each of its places is. */
export interface BestSequence {
	readonly sequence: readonly number[];
	/** For each place, what the best sequence with that page elsewhere would lose. */
	readonly leads: readonly number[];
}

/** Longest run of pages that is moved as one. */
const LONGEST_RUN = 4;
/** With more pages than this, runs are not tried. */
const MANY = 40;

/**
 * The sequence with the highest score, by moving runs of pages for as long as that helps (Or 1976), from several starts.
 *
 * @param starts permutations of 0 … n - 1 to begin at
 */
export function bestSequence(
	starts: readonly (readonly number[])[],
	score: (sequence: readonly number[]) => number
): BestSequence {
	let best: number[] = [];
	let most = -Infinity;
	for (const start of starts) {
		const { sequence, value } = climb([...start], score);
		if (value > most + 1e-9) {
			most = value;
			best = sequence;
		}
	}
	const leads = best.map((_, i) => {
		const without = best.filter((_, k) => k !== i);
		let other = -Infinity;
		for (let to = 0; to < best.length; to++) {
			if (to !== i) other = Math.max(other, score([...without.slice(0, to), best[i]!, ...without.slice(to)]));
		}
		return Math.max(0, most - other);
	});
	return { sequence: best, leads };
}

function climb(
	start: number[],
	score: (sequence: readonly number[]) => number
): { sequence: number[]; value: number } {
	let sequence = start;
	let value = score(sequence);
	const longest = sequence.length > MANY ? 1 : LONGEST_RUN;
	for (let better = true; better;) {
		better = false;
		for (let length = 1; length <= longest; length++) {
			for (let from = 0; from + length <= sequence.length; from++) {
				const run = sequence.slice(from, from + length);
				const rest = [...sequence.slice(0, from), ...sequence.slice(from + length)];
				for (let to = 0; to <= rest.length; to++) {
					if (to === from) continue;
					const tried = [...rest.slice(0, to), ...run, ...rest.slice(to)];
					const worth = score(tried);
					if (worth > value + 1e-9) {
						sequence = tried;
						value = worth;
						better = true;
						break;
					}
				}
			}
		}
	}
	return { sequence, value };
}
