/** Weights of what describes a name (`describeNames`), by `./membrana bench fit names`. */
export const NAME_WEIGHTS: readonly number[] = [
	3.68, 2.08, 1.55, 1.45, 0.21, -1.09, -0.57, 0.94, -0.26, -1.27
];
