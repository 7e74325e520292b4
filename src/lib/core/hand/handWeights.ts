/** Printed by `./membrana bench fit hands`. */
export const HAND_WEIGHTS: readonly number[] = [
	8.89, -1.23, -3.12, -0.11, -0.56, 0, 0, -0.74, -2.79, -2.56, -0.34, -0.56
];
