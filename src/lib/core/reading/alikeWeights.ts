/** Weights of what labels say of each other (`describeAlike`), by `./membrana bench fit alike`. */
export const ALIKE_WEIGHTS: readonly number[] = [
	-0.06, 1.33, 1.26, -0.76, 0.68, -0.93, 0.25, -0.51, 1.46, 0.6, -0.76, -0.31
];
