/** Weights of what describes a name (`describeNames`), by `./membrana bench fit names tuning 40 970000`. */
export const NAME_WEIGHTS: readonly number[] = [
	-1.5, 0.84, 0.13, 0.17, 0.1, -0.28, 0.01, 1.74, -0.43, -0.31, 0, 0.93, -0.69, -1.11
];
