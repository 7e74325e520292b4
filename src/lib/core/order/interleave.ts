/**
 * Pages as a sheet feeder leaves them, all fronts and then all backs, put into reading order.
 *
 * @param backs `same`: the backs come in the order of their fronts; `reversed`: the pile was turned over as a whole, so
 *   that the last back comes first
 */
export function interleave<T>(pages: readonly T[], backs: 'same' | 'reversed'): T[] {
	const half = Math.ceil(pages.length / 2);
	const fronts = pages.slice(0, half);
	const behind = backs === 'same' ? pages.slice(half) : pages.slice(half).reverse();
	// With one sheet left blank on its back, the last front has none.
	return fronts.flatMap((front, i) => (i < behind.length ? [front, behind[i]!] : [front]));
}
