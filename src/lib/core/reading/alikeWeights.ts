/** Weights of what labels say of each other (`describeAlike`), by `./membrana bench fit alike`. */
export const ALIKE_WEIGHTS: readonly number[] = [
	0.96, 1.31, 2.11, -1.09, 0.36, -1.55, -0.96, -0.23, 0.8, -0.17, -0.38, -0.23
];
