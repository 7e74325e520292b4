/** Weights of what describes a page number (`describeNumbers`), by `./membrana bench fit numbers`. */
export const NUMBER_WEIGHTS: readonly number[] = [
	4.22, 2.71, 0.32, 0.62, 0.82, 0.3, 0.22, -0.93, 0.19, -0.05, 0.7, -0.84, 0.36, -0.79, 0.02, -0.06, 0.73
];
