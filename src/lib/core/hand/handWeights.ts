/** Printed by `./membrana bench fit hands`. */
export const HAND_WEIGHTS: readonly number[] = [
	9.2, -1.99, -2.24, -0.58, -0.18, 0, 0, 0, -1.87, -1.49, -0.03, -0.25
];
