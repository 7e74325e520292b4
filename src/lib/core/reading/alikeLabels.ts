import { ALIKE_WEIGHTS } from './alikeWeights';
import type { LabelForm } from './labelForms';
import type { LabelCandidate, LabelOption } from './labelCandidates';
import { oddsOf } from './oddsOf';

export const ALIKE_FEATURES = [
	'bias',
	'log odds',
	'same form',
	'other form',
	'same column',
	'other column',
	'framed alike',
	'framed otherwise',
	'bare, same form',
	'bare, other form',
	'same column, same form',
	'logarithm of how many'
] as const;

/** So much of a label has to be seen elsewhere before it tells as much as the rest. */
const LITTLE = 0.5;
/** Labels begin as far from the left edge of the writing as each other, within this many heights of a line. */
const COLUMN = 0.8;
/** Width of the bins by which columns are counted, in heights of a line, and how far they reach. */
const BIN = 0.4;
const FAR = 12;
const BINS = Math.ceil((2 * FAR) / BIN) + 1;
/** Less likely options are forgotten. */
const LEAST = 0.01;

/** How the labels of some pages are written, as far as they are sure. */
class Manner {
	all = 0;
	framed = 0;
	readonly forms = new Map<string, number>();
	readonly levels = new Map<string, number>();
	readonly columns = new Float64Array(BINS);

	/** @param sign 1 adds what a place says, -1 takes it out again */
	count(one: LabelCandidate, sign: 1 | -1): void {
		let any = 0;
		for (const option of one.options) {
			any += option.probability;
			for (const [map, key] of [
				[this.forms, levelOf(option) + option.form],
				[this.levels, levelOf(option)]
			] as const) {
				map.set(key, (map.get(key) ?? 0) + sign * option.probability);
			}
		}
		this.all += sign * any;
		if (one.framed) this.framed += sign * any;
		this.columns[binOf(one)]! += sign * any;
	}
	inColumn(one: LabelCandidate): number {
		const reach = Math.round(COLUMN / BIN);
		const at = binOf(one);
		let sum = 0;
		for (let k = Math.max(0, at - reach); k <= Math.min(BINS - 1, at + reach); k++) sum += this.columns[k]!;
		return sum;
	}
}

const binOf = ({ fromBody }: LabelCandidate) =>
	Math.round((Math.min(FAR, Math.max(-FAR, fromBody)) + FAR) / BIN);

/** Parts alone are written otherwise than questions, by one and the same hand. */
const levelOf = ({ question, part }: LabelOption) => (question === null ? 'p' : part === null ? 'q' : 'qp');

/**
 * What the other labels say of each option: one hand writes its labels alike, in one form, one column, with one kind of
 * frame. Numbers in the sequence of `ALIKE_FEATURES`.
 */
export function describeAlike(pages: readonly (readonly LabelCandidate[])[]): number[][][][] {
	const manner = new Manner();
	for (const page of pages) for (const one of page) manner.count(one, 1);
	return pages.map((page) =>
		page.map((one) => {
			manner.count(one, -1);
			const { all, framed, forms, levels } = manner;
			const none = noneOf(one);
			const column = manner.inColumn(one);
			const asFramed = one.framed ? framed : all - framed;
			const described = one.options.map((option) => {
				const level = levels.get(levelOf(option)) ?? 0;
				const form = forms.get(levelOf(option) + option.form) ?? 0;
				const [same, other] = [form / (level + LITTLE), (level - form) / (level + LITTLE)];
				const bare: LabelForm = 'bare';
				const inColumn = column / (all + LITTLE);
				return [
					1,
					Math.log(option.probability / none),
					same,
					other,
					inColumn,
					(all - column) / (all + LITTLE),
					asFramed / (all + LITTLE),
					(all - asFramed) / (all + LITTLE),
					option.form === bare ? same : 0,
					option.form === bare ? other : 0,
					same * inColumn,
					Math.log(1 + all)
				];
			});
			manner.count(one, 1);
			return described;
		})
	);
}

const noneOf = ({ options }: LabelCandidate) =>
	Math.max(0.003, 1 - options.reduce((sum, o) => sum + o.probability, 0));

/**
 * Weighs what may be labels by each other: what is written as the sure ones are is likelier, what is not is less.
 *
 * @param pages the places of each page of one writer, with probabilities that each place has by itself
 */
export function weighedByOthers(pages: readonly (readonly LabelCandidate[])[]): LabelCandidate[][] {
	const described = describeAlike(pages);
	return pages.map((page, p) =>
		page.map((one, i) => {
			const odds = described[p]![i]!.map((features) => oddsOf(features, ALIKE_WEIGHTS));
			const all = 1 + odds.reduce((a, b) => a + b, 0);
			const options = one.options
				.map((o, k) => ({ ...o, probability: odds[k]! / all }))
				.filter((o) => o.probability >= LEAST)
				.sort((a, b) => b.probability - a.probability);
			return { ...one, options };
		})
	);
}
