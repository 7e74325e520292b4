/** Weights of what describes a page number (`describeNumbers`), by `./membrana bench fit numbers`. */
export const NUMBER_WEIGHTS: readonly number[] = [
	3.9, 2.3, 0, 2.3, 0, 0, 0, -9, 7.8, -5, 0, 0, 0, 0, 0, 0, 0, 0, 0
];
