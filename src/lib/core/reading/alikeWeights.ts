/** Weights of what labels say of each other (`describeAlike`), by `./membrana bench fit alike`. */
export const ALIKE_WEIGHTS: readonly number[] = [
	1.01, 1.58, 1.73, -1.41, 0.18, -1.38, -0.71, -0.5, 0.48, -0.11, 0.27, -0.17
];
