/** Weights of what describes a page number (`describeNumbers`), by `./membrana bench fit numbers`. */
export const NUMBER_WEIGHTS: readonly number[] = [
	3.13, 2.51, 0.45, 0.71, 0.96, 0.48, 0.27, -1.13, 0.62, 0.24, 0.88, -0.54, 0.53, -0.92, 0.07, -0.34, 1.03
];
