/** Weights of what labels say of each other (`describeAlike`), by `./membrana bench fit alike`. */
export const ALIKE_WEIGHTS: readonly number[] = [
	0.99, 1.33, 2.03, -1.08, 0.39, -1.63, -1.02, -0.22, 0.74, 0, -0.38, -0.19
];
