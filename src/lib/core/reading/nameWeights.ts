/** Weights of what describes a name (`describeNames`), by `./membrana bench fit names`. */
export const NAME_WEIGHTS: readonly number[] = [
	3.74, 2.42, 1.71, 1.33, 0.51, -1.42, -0.43, 0.93, -0.37, -0.92
];
