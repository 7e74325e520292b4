/** Weights of what labels say of each other (`describeAlike`), by `./membrana bench fit alike`. */
export const ALIKE_WEIGHTS: readonly number[] = [
	0.19, 1.36, 1.43, -0.82, 0.43, -0.83, 0.11, -0.51, 2.03, 0.39, -0.13, -0.35
];
