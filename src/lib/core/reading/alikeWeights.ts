/** Weights of what labels say of each other (`describeAlike`), by `./membrana bench fit alike`. */
export const ALIKE_WEIGHTS: readonly number[] = [
	0.33, 1.32, 1.21, -1.88, 0.76, -1.28, 0.07, -0.59, 1.07, 1.4, -0.59, -0.17
];
