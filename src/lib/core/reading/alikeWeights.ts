/** Weights of what labels say of each other (`describeAlike`), by `./membrana bench fit alike`. */
export const ALIKE_WEIGHTS: readonly number[] = [
	1, 1.58, 1.74, -1.41, 0.17, -1.38, -0.71, -0.49, 0.48, -0.1, 0.26, -0.17
];
