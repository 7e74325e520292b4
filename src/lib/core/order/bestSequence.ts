/** A sequence and how sure each of its places is. */
export interface BestSequence {
	readonly sequence: readonly number[];
	/** For each place, how likely its page stands right behind the one before it; 0 to 1. */
	readonly confidences: readonly number[];
}

/** Longest run of pages that is moved as one. */
const LONGEST_RUN = 4;
/** Longest runs of pages that are swapped. */
const LONGEST_SWAP = 3;
/** With more pages than this, none are. */
const FEW = 24;
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
	return { sequence: best, confidences: confidencesOf(best, most, score) };
}

/** As far apart as this, sequences that are worse are left out of account. */
const NEGLIGIBLE = 12;

/** Of all sequences that are a step or so from the best, weighed by how likely they are, those that agree on a place. */
function confidencesOf(
	best: readonly number[],
	most: number,
	score: (sequence: readonly number[]) => number
): number[] {
	const before = new Map(best.map((page, i) => [page, best[i - 1] ?? -1]));
	const agreeing = new Map(best.map((page) => [page, 1]));
	let all = 1;
	for (const other of nearby(best)) {
		const less = most - score(other);
		if (less > NEGLIGIBLE) continue;
		const weight = Math.exp(-less);
		all += weight;
		other.forEach((page, i) => {
			if (before.get(page) === (other[i - 1] ?? -1)) agreeing.set(page, agreeing.get(page)! + weight);
		});
	}
	return best.map((page) => agreeing.get(page)! / all);
}

/** Sequences that a run of pages moved, or two runs swapped, makes of another, each of them once. */
export function* nearby(sequence: readonly number[]): Generator<number[]> {
	if (sequence.length > MANY) {
		// To remember them all would take hundreds of megabytes; only neighbours that change places come twice.
		const neighbours = new Set(sequence.slice(1).map((page, i) => `${sequence[i]} ${page}`));
		for (const other of moved(sequence, 1)) {
			const at = other.findIndex((page, i) => page !== sequence[i]);
			const isSwap = other[at] === sequence[at + 1] && other[at + 1] === sequence[at];
			if (!isSwap || neighbours.delete(`${sequence[at]} ${sequence[at + 1]}`)) yield other;
		}
		return;
	}
	const seen = new Set([String(sequence)]);
	const ways = [moved(sequence, LONGEST_RUN)];
	if (sequence.length <= FEW) ways.push(swapped(sequence, LONGEST_SWAP));
	for (const way of ways) {
		for (const other of way) {
			const key = String(other);
			if (seen.has(key)) continue;
			seen.add(key);
			yield other;
		}
	}
}

function climb(
	start: number[],
	score: (sequence: readonly number[]) => number
): { sequence: number[]; value: number } {
	let sequence = start;
	let value = score(sequence);
	const isLarge = sequence.length > MANY;
	const climbed = (ways: (sequence: readonly number[]) => Iterable<number[]>): boolean => {
		let better = false;
		for (const tried of ways(sequence)) {
			const worth = score(tried);
			if (worth <= value + 1e-9) continue;
			sequence = tried;
			value = worth;
			better = true;
		}
		return better;
	};
	for (let better = true; better;) {
		better = climbed((s) => moved(s, isLarge ? 1 : LONGEST_RUN));
		// Two pages that stand for each other: moving either alone makes it worse.
		if (!better && sequence.length <= FEW) better = climbed((s) => swapped(s, LONGEST_SWAP));
	}
	return { sequence, value };
}

/** Every way to move a run of pages. */
function* moved(sequence: readonly number[], longest: number): Generator<number[]> {
	for (let length = 1; length <= longest; length++) {
		for (let from = 0; from + length <= sequence.length; from++) {
			const run = sequence.slice(from, from + length);
			const rest = [...sequence.slice(0, from), ...sequence.slice(from + length)];
			for (let to = 0; to <= rest.length; to++) {
				if (to !== from) yield [...rest.slice(0, to), ...run, ...rest.slice(to)];
			}
		}
	}
}

/** Every way to swap two runs. */
function* swapped(sequence: readonly number[], longest: number): Generator<number[]> {
	const n = sequence.length;
	for (let a = 0; a < n; a++) {
		for (let lengthA = 1; lengthA <= longest; lengthA++) {
			for (let b = a + lengthA + 1; b < n; b++) {
				for (let lengthB = 1; lengthB <= Math.min(longest, n - b); lengthB++) {
					yield [
						...sequence.slice(0, a),
						...sequence.slice(b, b + lengthB),
						...sequence.slice(a + lengthA, b),
						...sequence.slice(a, a + lengthA),
						...sequence.slice(b + lengthB)
					];
				}
			}
		}
	}
}
