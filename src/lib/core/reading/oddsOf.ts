/**
 * Odds that a reading is right, against "none": e to the weighted sum of the numbers that describe it (multinomial
 * logistic regression).
 */
export function oddsOf(features: readonly number[], weights: readonly number[]): number {
	let sum = 0;
	for (let k = 0; k < features.length; k++) sum += features[k]! * weights[k]!;
	return Math.exp(sum);
}
