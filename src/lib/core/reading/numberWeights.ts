/** Weights of what describes a page number (`describeNumbers`), by `./membrana bench fit numbers`. */
export const NUMBER_WEIGHTS: readonly number[] = [
	4.65, 2.42, -0.66, 0.47, 1.72, -0.31, 0.59, -1.18, -0.07, -0.3, 0.88, -0.88, 0.24, -1.2, 0.95, 0.2, -0.37,
	0.49, -0.4, 0.63
];
