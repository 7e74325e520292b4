import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { answerables } from '../assignment/question';
import { stepOf } from '../mapping/labelEvents';
import { labelPath, LABELS, type SaidLabel } from './labelPath';

const RANKED = answerables([
	{ label: '1' },
	{ label: '2', parts: [{ label: 'a' }, { label: 'b' }] },
	{ label: '3' }
]);
type Place = readonly SaidLabel[];

const weightsOf = fc.array(fc.double({ min: -4, max: 4, noNaN: true }), {
	minLength: LABELS.length,
	maxLength: LABELS.length
});
const said = fc.record({
	question: fc.constantFrom('1', '2', '3', '7', null),
	part: fc.constantFrom('a', 'b', null),
	probability: fc.double({ min: 0.05, max: 0.45, noNaN: true })
});
const pagesOf = fc.array(fc.array(fc.array(said, { maxLength: 2 }), { maxLength: 2 }), {
	minLength: 1,
	maxLength: 3
});

/** What each choice of a reading, or of none, at every place is worth; the best of all of them. */
function bestOfAll(places: readonly Place[], weights: readonly number[]): number {
	let best = -Infinity;
	const go = (k: number, rank: number, heading: boolean, value: number) => {
		const options = places[k];
		if (!options) {
			best = Math.max(best, value);
			return;
		}
		const none = 1 - options.reduce((sum, o) => sum + o.probability, 0);
		go(k + 1, rank, heading, value + weights[0]! * Math.log(Math.max(0.01, none)));
		for (const option of options) {
			const step = stepOf(option, RANKED, rank, heading);
			if (!step) continue;
			const gap = step.rank - rank;
			let gain = weights[0]! * Math.log(option.probability);
			if (gap === 1) gain += weights[1]!;
			else if (gap === 0 && heading && !step.heading) gain += weights[2]!;
			else {
				if (option.question === null) gain += weights[7]!;
				if (gap > 1) gain += weights[3]! + Math.min(gap - 2, 6) * weights[4]!;
				else gain += gap === 0 ? weights[5]! : weights[6]!;
			}
			go(k + 1, step.rank, step.heading, value + gain);
		}
	};
	go(0, -1, false, 0);
	return best;
}

describe('the likeliest way through labels', () => {
	it('is the best of all ways there are', () => {
		fc.assert(
			fc.property(pagesOf, weightsOf, (pages, weights) => {
				const path = labelPath(pages, RANKED, weights);
				const sequence = pages.map((_, i) => i);
				expect(path.score(sequence)).toBeCloseTo(bestOfAll(pages.flat(), weights), 8);
			}),
			{ numRuns: 300 }
		);
	});

	it('is described by what its score is made of', () => {
		fc.assert(
			fc.property(pagesOf, weightsOf, fc.boolean(), (pages, weights, backwards) => {
				const path = labelPath(pages, RANKED, weights);
				const sequence = pages.map((_, i) => (backwards ? pages.length - 1 - i : i));
				const sum = path.describe(sequence).reduce((all, f, k) => all + f * weights[k]!, 0);
				expect(sum).toBeCloseTo(path.score(sequence), 8);
			}),
			{ numRuns: 300 }
		);
	});

	it('does not remember the sequence before', () => {
		fc.assert(
			fc.property(pagesOf, weightsOf, (pages, weights) => {
				const path = labelPath(pages, RANKED, weights);
				const sequence = pages.map((_, i) => i);
				const first = path.score(sequence);
				path.score([...sequence].reverse());
				path.describe([0]);
				expect(path.score(sequence)).toBe(first);
			})
		);
	});

	it('passes over a label that leads astray, where the others follow each other without it', () => {
		const sure = (question: string | null, part: string | null = null) => [
			{ question, part, probability: 0.9 }
		];
		const weights = [1, 0, 0, -2, -1, -3, -4, -1];
		// A false "3" at the end of what answers question 1.
		const path = labelPath(
			[[sure('1'), [{ question: '3', part: null, probability: 0.6 }]], [sure('2', 'a')]],
			RANKED,
			weights
		);
		const taken = path.describe([0, 1]);
		expect(taken[LABELS.indexOf('the next one')]).toBe(2);
		expect(taken[LABELS.indexOf('one goes back')]).toBe(0);
		expect(path.score([0, 1])).toBeGreaterThan(path.score([1, 0]));
	});
});
