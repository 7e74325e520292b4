/** Weights of what describes a page number (`describeNumbers`), by `./membrana bench fit numbers`; those of strange pages by `fit strange`. */
export const NUMBER_WEIGHTS: readonly number[] = [
	3.89, 2.46, -1.67, 0.87, 0.96, 0.15, 0.02, -1.08, -0.8, -0.17, 0.07, 0.46, 0.64, -0.54, 0.44, 0.38, -0.61,
	0.61, -0.23, 0.53, -3.58, -1.3, -0.06, -1.13, -1.26, -0.51, -0.1
];
