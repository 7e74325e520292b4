/** Weights of what describes a page number (`describeNumbers`), by `./membrana bench fit numbers`. */
export const NUMBER_WEIGHTS: readonly number[] = [
	4.43, 2.88, -0.02, 0.45, 1.4, -0.52, -0.24, -0.04, 0.14, 0.48, 0.7, -0.24, -0.2, 0.01, 0.87, 0.31, 0.41,
	1.22, -0.13, 0.05
];
