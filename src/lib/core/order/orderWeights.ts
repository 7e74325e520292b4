/** Weights of what describes a sequence of pages (`SEQUENCE_FEATURES`), by `./membrana bench fit order`. */
export const ORDER_WEIGHTS: readonly number[] = [
	2.5, -2.2, 1.5, 0.5, -1.2, 3, -1.5, -3, -1, 0.5, -1, 0.5, 2.5, 1, 1, -1.5, 0, 2.4, 0, -2, -0.5, -4.3, -6,
	-2.4, -7
];
