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
export const TEMPERED = 0.6;

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
	const runs: Run[][] = Array.from({ length: count + 1 }, () => []);
	const likeliest = (ways: Growing[]) =>
		ways.length <= WAYS ? ways : ways.sort((a, b) => judge.open(b) - judge.open(a)).slice(0, WAYS);
	for (let from = 0; from < count; from++) {
		const before = from === 0 ? 0 : judge.between(from);
		let ways = [judge.begin(from)];
		for (let to = from + 1; to <= Math.min(count, from + longest); to++) {
			if (to > from + 1) ways = likeliest(ways.flatMap((packet) => judge.extend(packet, to - 1)));
			const [best] = ways
				.map((packet) => ({ packet, value: before + judge.whole(packet) }))
				.sort((a, b) => b.value - a.value);
			if (best && best.value > -Infinity) runs[to]!.push({ ...best, from, to, ...UNKNOWN });
		}
	}
	const behind: Run[][] = Array.from({ length: count + 1 }, () => []);
	for (let to = 1; to <= count; to++) {
		for (const run of runs[to]!) {
			behind[run.from]!.push(run);
			const ways = runs[run.from]!.map((last) => ({ last, joint: judge.behind(last.packet, run.packet) }));
			run.best = run.from === 0 ? run.value : -Infinity;
			for (const { last, joint } of ways) {
				if (last.best + joint + run.value <= run.best) continue;
				run.best = last.best + joint + run.value;
				run.back = last;
			}
			const sums = ways.map(({ last, joint }) => last.forwards + TEMPERED * joint);
			run.forwards = (run.from === 0 ? 0 : logSum(sums)) + TEMPERED * run.value;
		}
	}
	for (let to = count; to > 0; to--) {
		for (const run of runs[to]!) {
			const sums = behind[to]!.map(
				(next) => next.backwards + TEMPERED * (next.value + judge.behind(run.packet, next.packet))
			);
			run.backwards = to === count ? 0 : logSum(sums);
		}
	}
	const all = logSum(runs[count]!.map((run) => run.forwards));
	const sure = (some: readonly Run[]) =>
		Math.min(1, Math.exp(logSum(some.map((run) => run.forwards + run.backwards)) - all));
	const last = runs[count]!.reduce<Run | null>((a, b) => (a && a.best >= b.best ? a : b), null);
	const segments: Segment[] = [];
	for (let run = last; run; run = run.back) {
		const { packet, from, to } = run;
		segments.unshift({ packet, from, to, confidence: sure([run]) });
	}
	return {
		segments,
		begins: Float64Array.from({ length: count + 1 }, (_, i) => (i === count ? 1 : sure(behind[i]!))),
		value: last?.best ?? 0
	};
}

/** Pages from one on up to another as one packet, and what is known of the ways before and behind it. */
interface Run {
	readonly from: number;
	readonly to: number;
	readonly packet: Growing;
	/** How likely it is, with what lies before it; as all here, a natural logarithm. */
	readonly value: number;
	/** Of the likeliest way that ends with it, and the run before it on that way. */
	best: number;
	back: Run | null;
	/** Of all ways up to its end, and from its end on; brought nearer to each other. */
	forwards: number;
	backwards: number;
}

const UNKNOWN = { best: -Infinity, back: null, forwards: -Infinity, backwards: -Infinity } as const;
