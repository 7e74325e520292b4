/** Weights of what describes a sequence of pages (`SEQUENCE_FEATURES`), by `./membrana bench fit order`. */
export const ORDER_WEIGHTS: readonly number[] = [
	1.49, -0.2, 1.55, 1.07, -1.65, 2.9, -0.1, -0.89, 0, 0.79, -0.59, 0.35, 0.28, 1.18, 0.89, -0.49, 0.88, 1.09,
	0.84, 0, -0.16, -0.76, 0, -1.23, -0.13
];
