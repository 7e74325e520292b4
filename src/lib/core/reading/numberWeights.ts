/** Weights of what describes a page number (`describeNumbers`), by `./membrana bench fit numbers`; those of strange pages by `fit strange`. */
export const NUMBER_WEIGHTS: readonly number[] = [
	4.22, 1.99, -1.45, 0.24, 0.78, 0.24, -0.43, -1.59, -1.03, -0.27, -0.04, 0.84, 0.57, -0.69, 0.32, 0.36, -0.5,
	0.89, -0.33, 0.48, -3.52, -1.56, -0.14, -1.19, -1.31
];
