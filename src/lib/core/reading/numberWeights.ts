/** Weights of what describes a page number (`describeNumbers`), by `./membrana bench fit numbers`. */
export const NUMBER_WEIGHTS: readonly number[] = [
	5.46, 2.17, 0.06, 0.67, 1.7, -0.25, 0.46, -1.08, -0.19, -0.15, 0.49, -0.62, 0.16, -0.92, 1.06, 0.22, 0.74,
	1.01, -0.13, 0.3
];
