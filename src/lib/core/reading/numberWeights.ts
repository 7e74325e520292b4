/** Weights of what describes a page number (`describeNumbers`), by `./membrana bench fit numbers`; those of strange pages by `fit strange`. */
export const NUMBER_WEIGHTS: readonly number[] = [
	3.54, 2.31, -1.56, 0.38, 0.99, 0.25, 0.28, -1.05, -0.92, -0.07, 0.23, 0.62, 0.45, -0.55, 0.4, 0.38, -0.66,
	0.73, -0.3, 0.29, -3.49, -1.38, -0.12, -1.19, -1.31, -0.61
];
