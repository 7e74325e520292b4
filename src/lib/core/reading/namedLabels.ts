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

/** Less likely ones are not named. */
const LEAST = 0.5;
/**
 * How much likelier than any other a label is that goes on where the one before it was, one that leaves something out,
 * and one that goes back: people answer in order, most of the time.
 */
const NEXT = 5;
const LATER = 1;
const BACK = 0.12;

/** Where the reading of a page has come to. */
interface Stand {
	readonly question: string | null;
	readonly part: string | null;
}
const START: Stand = { question: null, part: null };

/**
 * The labels that stand on a page, from the top down; "(b)" behind "3 (a)" is 3b. What one place may say is weighed with
 * what stands before and behind it (forward and backward sums, Baum et al. 1970).
 */
export function namedLabels(candidates: readonly LabelCandidate[]): NamedLabel[] {
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
				add(next, sums, behind(stand, option), chances[s]! * option.probability * fits(stand, option));
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
				(sum, o) => sum + o.probability * fits(stand, o) * chance(behind(stand, o)),
				none * chance(stand)
			)
		);
		backward.unshift(normalised(here));
	}
	return steps.flatMap(({ options, none }, i): NamedLabel[] => {
		const { stands, chances } = forward[i]!;
		const { stands: later } = forward[i + 1]!;
		const after = (stand: Stand) => backward[i + 1]![later.findIndex((l) => same(l, stand))] ?? 0;
		const sums = new Map<string, number>();
		let all = 0;
		stands.forEach((stand, s) => {
			all += chances[s]! * none * after(stand);
			for (const option of options) {
				const to = behind(stand, option);
				const sum = chances[s]! * option.probability * fits(stand, option) * after(to);
				const name = `${to.question ?? ''}${to.part ?? ''}`;
				sums.set(name, (sums.get(name) ?? 0) + sum);
				all += sum;
			}
		});
		const [best] = [...sums].sort((a, b) => b[1] - a[1]);
		if (!best || best[1] / all < LEAST) return [];
		const { text, y } = candidates[i]!;
		return [{ text, question: best[0], y, confidence: best[1] / all }];
	});
}

/** Where a label leads. */
function behind(stand: Stand, { question, part }: LabelOption): Stand {
	return { question: question ?? stand.question, part };
}

/** How well a label fits what stands before it. */
function fits(stand: Stand, { question, part }: LabelOption): number {
	if (stand.question === null && stand.part === null) return 1;
	if (question === null || question === stand.question) {
		const step = (part?.charCodeAt(0) ?? 96) - (stand.part?.charCodeAt(0) ?? 96);
		return step === 1 ? NEXT : step > 1 ? LATER : BACK;
	}
	if (stand.question === null) return LATER;
	const step = Number(question) - Number(stand.question);
	if (Number.isNaN(step)) return LATER;
	return step === 1 ? (part === null || part === 'a' ? NEXT : LATER) : step > 1 ? LATER : BACK;
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
