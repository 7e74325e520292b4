import { describe, expect, it } from 'vitest';
import { mixed, posterior } from '../../../../tests/support/reading';
import { highNumberChance, valueChance } from './measuredValue';

describe('valueChance', () => {
	it('knows numbers with a fraction from labels that begin alike', () => {
		for (const value of ['3.1', '29.8 limb', '0,42 m', '76.03 gauge', '7:51', '11:20 rise']) {
			expect(valueChance(posterior(value)), value).toBeGreaterThan(0.9);
		}
		for (const label of ['3', '3.', '3:', '3: limb', '3.a', '14', '2g', '3 (b)', '12 limb']) {
			expect(valueChance(posterior(label)), label).toBeLessThan(0.05);
		}
	});

	it('is as sure as the letters are', () => {
		// The point may be none, and the 9 a g: then it is the label 2g.
		const chance = valueChance(mixed('29.8 limb', '2g 8 limb', 0.3));
		expect(chance).toBeGreaterThan(0.05);
		expect(chance).toBeLessThan(0.6);
	});
});

describe('highNumberChance', () => {
	it('knows numbers that no question has', () => {
		for (const number of ['54', '(54)', '[21]', '37. limb', '82', '(99) limb']) {
			expect(highNumberChance(posterior(number)), number).toBeGreaterThan(0.9);
		}
		for (const label of ['5a', '(5a)', '5', '14', '20.', '2) limb', '(b)', 'Q3']) {
			expect(highNumberChance(posterior(label)), label).toBeLessThan(0.2);
		}
	});

	it('is as sure as the letters are', () => {
		const chance = highNumberChance(mixed('54', '5a', 0.3));
		expect(chance).toBeGreaterThan(0.05);
		expect(chance).toBeLessThan(0.6);
	});
});
