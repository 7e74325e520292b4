import { describe, expect, it } from 'vitest';
import { Random } from '../../demo/generator/random';
import { fitChoices, listed, type Choice } from './multinomial';

/** Choices made by known weights. */
function choices(weights: readonly number[], count: number): Choice[] {
	const random = new Random(3);
	return Array.from({ length: count }, () => {
		const options = Array.from({ length: 3 }, () => [1, random.between(-2, 2), Number(random.chance(0.5))]);
		const odds = options.map((o) => Math.exp(o.reduce((sum, v, k) => sum + v * weights[k]!, 0)));
		let at = random.next() * (1 + odds.reduce((a, b) => a + b, 0));
		const right = odds.findIndex((o) => (at -= o) < 0);
		return { options, right: right < 0 ? null : right };
	});
}

describe('fitting choices', () => {
	it('finds the weights that choices were made by', () => {
		const fitted = fitChoices(choices([-1.5, 2, 1], 3000));
		for (const [k, w] of [-1.5, 2, 1].entries()) expect(Math.abs(fitted[k]! - w)).toBeLessThan(0.2);
	});

	it('holds weights where it is told to, and lets them go where little is known only with a small ridge', () => {
		const made = choices([-1.5, 2, 1], 300);
		const held = fitChoices(made, { most: 1.2 });
		expect(held[1]).toBe(1.2);
		expect(Math.max(...held.map(Math.abs))).toBe(1.2);
		const few = made.slice(0, 12);
		expect(Math.abs(fitChoices(few, { ridge: 10 })[1]!)).toBeLessThan(
			0.5 * Math.abs(fitChoices(few, { ridge: 0.1 })[1]!)
		);
	});

	it('leaves weights as they begin but for those that are to be fitted', () => {
		const made = choices([-1.5, 2, 1], 3000);
		const [bias, first, second] = fitChoices(made, { from: [-1.5, 2, 0], free: [2] });
		expect([bias, first]).toEqual([-1.5, 2]);
		expect(Math.abs(second! - 1)).toBeLessThan(0.2);
	});

	it('takes none where none is ever right', () => {
		const [bias] = fitChoices(choices([-1.5, 2, 1], 300).map((c) => ({ ...c, right: null })));
		expect(bias!).toBeLessThan(-4);
	});

	it('lists weights as they stand in the code', () => {
		expect(listed([1.005, -0.5, 2])).toBe('[1, -0.5, 2]');
	});
});
