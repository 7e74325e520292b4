/** How the sides of the sheets were fed: leaf by leaf, or all fronts and then all backs. */
export type Feeding = 'as fed' | 'fronts, then backs' | 'fronts, then backs from the last';

export const FEEDINGS: readonly Feeding[] = [
	'as fed',
	'fronts, then backs',
	'fronts, then backs from the last'
];

/** The places of pages as they lie in the pile, front and back of each leaf together. */
export function inPileOrder(feeding: Feeding, count: number): number[] {
	if (feeding === 'as fed') return Array.from({ length: count }, (_, i) => i);
	const half = count >> 1;
	return Array.from({ length: count }, (_, i) => {
		if (i % 2 === 0) return i >> 1;
		return feeding === 'fronts, then backs' ? half + (i >> 1) : count - 1 - (i >> 1);
	});
}
