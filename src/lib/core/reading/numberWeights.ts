/** Weights of what describes a page number (`describeNumbers`), by `./membrana bench fit numbers`. */
export const NUMBER_WEIGHTS: readonly number[] = [
	4.12, 2.99, -1.09, 0.28, 1.71, -0.32, -0.02, -0.91, -0.26, -0.63, 1.19, -0.87, 0.34, 0.09, 0.36, -0.44,
	-0.7, 0.32, 0.07, 0.62
];
