import { logSum, type Growing, type PacketLikelihood } from './packetLikelihood';

/** A run of pages taken for one packet. */
export interface Segment {
	readonly packet: Growing;
	/** First page, and one past the last, as places in the list. */
	readonly from: number;
	readonly to: number;
	/** How likely it begins and ends just there, 0 to 1. */
	readonly confidence: number;
}

export interface Segmentation {
	readonly segments: readonly Segment[];
	/** For each page, how likely a packet begins with it, 0 to 1. */
	readonly begins: Float64Array;
	/** Of everything, as a natural logarithm. */
	readonly value: number;
}

/**
 * What is known of one page is not independent of what is known of the next, so that the likelihoods are too far apart:
 * for confidences they are brought this much nearer to each other.
 */
const TEMPERED = 0.6;

/** Of the ways in which pages may be a packet's own or strays, so many are followed. */
const WAYS = 3;

/**
 * The likeliest places at which packets end: dynamic programming over all runs of pages, and sums forwards and backwards
 * for how sure each is.
 *
 * @param count of pages
 * @param longest packet that is thought of
 */
export function segment(judge: PacketLikelihood, count: number, longest: number): Segmentation {
	const runs: { from: number; packet: Growing; value: number }[][] = Array.from(
		{ length: count + 1 },
		() => []
	);
	const likeliest = (ways: Growing[]) =>
		ways.length <= WAYS ? ways : ways.sort((a, b) => judge.open(b) - judge.open(a)).slice(0, WAYS);
	for (let from = 0; from < count; from++) {
		const before = from === 0 ? 0 : judge.between(from);
		let ways = [judge.begin(from)];
		for (let to = from + 1; to <= Math.min(count, from + longest); to++) {
			if (to > from + 1) ways = likeliest(ways.flatMap((packet) => judge.extend(packet, to - 1)));
			const [best] = ways
				.map((packet) => ({ from, packet, value: before + judge.whole(packet) }))
				.sort((a, b) => b.value - a.value);
			if (best && best.value > -Infinity) runs[to]!.push(best);
		}
	}
	const best = new Float64Array(count + 1).fill(-Infinity);
	const back: ((typeof runs)[number][number] | null)[] = [null];
	const forwards = new Float64Array(count + 1).fill(-Infinity);
	best[0] = forwards[0] = 0;
	for (let to = 1; to <= count; to++) {
		back[to] = null;
		for (const run of runs[to]!) {
			const value = best[run.from]! + run.value;
			if (value > best[to]!) {
				best[to] = value;
				back[to] = run;
			}
		}
		forwards[to] = logSum(runs[to]!.map((run) => forwards[run.from]! + TEMPERED * run.value));
	}
	const backwards = new Float64Array(count + 1).fill(-Infinity);
	backwards[count] = 0;
	for (let to = count; to > 0; to--) {
		for (const run of runs[to]!) {
			backwards[run.from] = logSum([backwards[run.from]!, backwards[to]! + TEMPERED * run.value]);
		}
	}
	const all = forwards[count]!;
	const segments: Segment[] = [];
	for (let to = count; to > 0;) {
		const { from, packet, value } = back[to]!;
		const confidence = Math.exp(forwards[from]! + TEMPERED * value + backwards[to]! - all);
		segments.unshift({ packet, from, to, confidence: Math.min(1, confidence) });
		to = from;
	}
	return {
		segments,
		begins: forwards.map((f, i) => Math.min(1, Math.exp(f + backwards[i]! - all))),
		value: best[count]!
	};
}
