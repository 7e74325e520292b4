/** Weights of what labels say of each other (`describeAlike`), by `./membrana bench fit alike`. */
export const ALIKE_WEIGHTS: readonly number[] = [
	0.81, 1.44, 2.08, -1.1, 0.14, -1.49, -0.69, -0.66, 0.58, 0.57, -0.77, -0.23
];
