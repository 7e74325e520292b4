/** Weights of what describes a name (`describeNames`), by `./membrana bench fit names`. */
export const NAME_WEIGHTS: readonly number[] = [
	4.89, 2.38, 2.11, 1.42, 0.63, -1.84, -0.22, 1.23, -0.37, -0.4
];
