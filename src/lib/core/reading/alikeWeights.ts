/** Weights of what labels say of each other (`describeAlike`), by `./membrana bench fit alike`. */
export const ALIKE_WEIGHTS: readonly number[] = [
	0.5, 1.41, 1.92, -1, 0.18, -1.18, -0.52, -0.47, 0.55, -0.21, -0.86, -0.18
];
