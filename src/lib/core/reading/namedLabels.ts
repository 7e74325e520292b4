import type { LabelCandidate, LabelOption } from './labelCandidates';

/** A label as one page by itself says it. */
export interface NamedLabel {
	/** As read. */
	readonly text: string;
	/** "3b"; only the part where the page does not say of which question. */
	readonly question: string;
	/** Of its upper edge, as a fraction of the page's height. */
	readonly y: number;
	/** 0 to 1. */
	readonly confidence: number;
}

/**
 * Less likely ones are not named. What is named by a little less than even odds is said to be so unsure; to leave it out
 * would lose as many right ones as it spares wrong ones (an F-measure is largest at half of its own value).
 */
const LEAST = 0.4;
/**
 * How much likelier than any other a label is that goes on where the one before it was, one that leaves something out,
 * and one that goes back: people answer in order, most of the time. By `./membrana bench fit sequence`.
 */
export interface Habits {
	readonly next: number;
	readonly later: number;
	readonly back: number;
}
const HABITS: Habits = { next: 5, later: 0.5, back: 0.05 };

/** Where the reading of a page has come to. */
interface Stand {
	readonly question: string | null;
	readonly part: string | null;
}
const START: Stand = { question: null, part: null };

/** The labels that stand on a page, from the top down; "(b)" behind "3 (a)" is 3b. */
export function namedLabels(candidates: readonly LabelCandidate[]): NamedLabel[] {
	return labelChances(candidates).flatMap((chances, i): NamedLabel[] => {
		const [best] = [...chances].sort((a, b) => b[1] - a[1]);
		if (!best || best[1] < LEAST) return [];
		const { text, y } = candidates[i]!;
		return [{ text, question: best[0], y, confidence: best[1] }];
	});
}

/**
 * How likely each place says what, and with the rest of 1 no label. It is weighed with what stands before and behind it
 * on the page (forward and backward sums, Baum et al. 1970).
 */
export function labelChances(
	candidates: readonly LabelCandidate[],
	habits: Habits = HABITS
): Map<string, number>[] {
	const steps = candidates.map(({ options }) => {
		const none = Math.max(1e-6, 1 - options.reduce((sum, o) => sum + o.probability, 0));
		return { options, none };
	});
	// Forward: how likely each stand is behind each place.
	const forward: { stands: Stand[]; chances: number[] }[] = [{ stands: [START], chances: [1] }];
	for (const { options, none } of steps) {
		const { stands, chances } = forward.at(-1)!;
		const next: Stand[] = [...stands];
		const sums = chances.map((c) => c * none);
		for (const option of options) {
			stands.forEach((stand, s) => {
				add(
					next,
					sums,
					behind(stand, option),
					chances[s]! * option.probability * fits(stand, option, habits)
				);
			});
		}
		forward.push({ stands: next, chances: normalised(sums) });
	}
	// Backward: how likely the rest is from each stand.
	const backward: number[][] = [forward.at(-1)!.stands.map(() => 1)];
	for (let i = steps.length - 1; i >= 0; i--) {
		const { options, none } = steps[i]!;
		const { stands: later } = forward[i + 1]!;
		const after = backward[0]!;
		const chance = (stand: Stand) => after[later.findIndex((l) => same(l, stand))] ?? 0;
		const here = forward[i]!.stands.map((stand) =>
			options.reduce(
				(sum, o) => sum + o.probability * fits(stand, o, habits) * chance(behind(stand, o)),
				none * chance(stand)
			)
		);
		backward.unshift(normalised(here));
	}
	return steps.map(({ options, none }, i) => {
		const { stands, chances } = forward[i]!;
		const { stands: later } = forward[i + 1]!;
		const after = (stand: Stand) => backward[i + 1]![later.findIndex((l) => same(l, stand))] ?? 0;
		const sums = new Map<string, number>();
		let all = 0;
		stands.forEach((stand, s) => {
			all += chances[s]! * none * after(stand);
			for (const option of options) {
				const to = behind(stand, option);
				const sum = chances[s]! * option.probability * fits(stand, option, habits) * after(to);
				const name = `${to.question ?? ''}${to.part ?? ''}`;
				sums.set(name, (sums.get(name) ?? 0) + sum);
				all += sum;
			}
		});
		return new Map([...sums].map(([name, sum]) => [name, sum / all]));
	});
}

/** Where a label leads. */
function behind(stand: Stand, { question, part }: LabelOption): Stand {
	return { question: question ?? stand.question, part };
}

/** How well a label fits what stands before it. */
function fits(stand: Stand, { question, part }: LabelOption, { next, later, back }: Habits): number {
	if (stand.question === null && stand.part === null) return 1;
	if (question === null || question === stand.question) {
		const step = (part?.charCodeAt(0) ?? 96) - (stand.part?.charCodeAt(0) ?? 96);
		return step === 1 ? next : step > 1 ? later : back;
	}
	if (stand.question === null) return later;
	const step = Number(question) - Number(stand.question);
	if (Number.isNaN(step)) return later;
	return step === 1 ? (part === null || part === 'a' ? next : later) : step > 1 ? later : back;
}

const same = (a: Stand, b: Stand) => a.question === b.question && a.part === b.part;

function add(stands: Stand[], sums: number[], stand: Stand, chance: number): void {
	const at = stands.findIndex((s) => same(s, stand));
	if (at < 0) {
		stands.push(stand);
		sums.push(chance);
	} else sums[at]! += chance;
}

function normalised(values: readonly number[]): number[] {
	const all = values.reduce((a, b) => a + b, 0) || 1;
	return values.map((v) => v / all);
}
