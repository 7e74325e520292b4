/** Weights of what describes a name (`describeNames`), by `./membrana bench fit names`. */
export const NAME_WEIGHTS: readonly number[] = [-1, 3, 3, 3, 1, -1, 1, 2, 0, -0.5];
