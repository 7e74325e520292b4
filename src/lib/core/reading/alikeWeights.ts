/** Weights of what labels say of each other (`describeAlike`), by `./membrana bench fit alike`. */
export const ALIKE_WEIGHTS: readonly number[] = [
	0.96, 1.58, 1.7, -1.49, 0.2, -1.35, -0.68, -0.47, 0.5, -0.03, 0.21, -0.16
];
