/** Weights of what labels say of each other (`describeAlike`), by `./membrana bench fit alike`. */
export const ALIKE_WEIGHTS: readonly number[] = [
	0.98, 1.34, 2.11, -1.15, 0.39, -1.57, -0.96, -0.22, 0.76, -0.11, -0.39, -0.24
];
