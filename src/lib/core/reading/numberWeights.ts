/** Weights of what describes a page number (`describeNumbers`), by `./membrana bench fit numbers`. */
export const NUMBER_WEIGHTS: readonly number[] = [
	2.53, 2.25, -0.38, 0.96, 1.18, 0.11, 0.32, -1.41, 0.38, 0.75, 1.24, -1.38, 0.33, -0.49, -0.39, -0.25, 1.22
];
